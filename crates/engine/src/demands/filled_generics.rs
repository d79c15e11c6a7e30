use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "filled-generics",
    asks: "no bare `list`, `dict`, `Callable` … in annotations",
    rules: &["generic.bare"],
    asks_of: |_| true,
    page: Page {
        means: "Every generic type in an annotation says what it is of: `list[str]`, not `list`. It asks only about annotations that the project itself wrote, not about types that were concluded or come from libraries.",
        gives: "Elements and results are known, so that mistakes with them are seen.",
        costs: "Arguments for each bare type; `leitmotiv annotate` has evidence for many.",
        fails: "def longest(names: list) -> int:\n    return max(len(name) for name in names)\n",
        holds: "def longest(names: list[str]) -> int:\n    return max(len(name) for name in names)\n",
    },
};
