use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "reasoned-suppressions",
    asks: "each suppression names rules, gives a reason, and still suppresses something",
    rules: &["suppression.blanket", "suppression.unreasoned", "suppression.unused"],
    asks_of: |_| true,
    page: Page {
        means: "A comment that hides findings says which rules, and why, and is taken out once it hides nothing. What other tools are told to leave alone is not asked about, but for a reason where it is in the form of PEP 484.",
        gives: "What is hidden stays known, and nothing new hides behind it.",
        costs: "A reason for each; what hides nothing goes with `leitmotiv fix`.",
        fails: "berth: int = \"three\"  # type: ignore\n",
        holds: "berth: int = \"three\"  # leitmotiv: allow(value.assign) the harbour names its berths\n",
    },
};
