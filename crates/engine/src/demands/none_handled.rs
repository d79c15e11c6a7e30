use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "none-handled",
    asks: "a value that may be None is handled before use",
    rules: &[
        "none.argument",
        "none.call",
        "none.correlated",
        "none.index",
        "none.iteration",
        "none.member",
        "none.operand",
    ],
    asks_of: |_| true,
    page: Page {
        means: "What may be None is checked for it before an attribute is read, before it is called, indexed, iterated, calculated with, or passed where None is not taken.",
        gives: "The most common failure of running code is told before it runs.",
        costs: "A check for each such use, or a place that never gives None; `leitmotiv explain` shows which is nearest.",
        fails: "def berth_of(plan: dict[str, str], name: str) -> str:\n    return plan.get(name).upper()\n",
        holds: "def berth_of(plan: dict[str, str], name: str) -> str:\n    berth = plan.get(name)\n    return berth.upper() if berth is not None else \"\"\n",
    },
};
