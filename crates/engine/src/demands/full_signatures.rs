use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "full-signatures",
    asks: "every function has all parameters and its return annotated",
    rules: &["annotation.missing"],
    asks_of: |_| true,
    page: Page {
        means: "Each parameter (`self` and `cls` apart) and each result is annotated; `__init__` needs no result. Nested functions count, lambdas do not.",
        gives: "Calls are held against what the function takes, and its result is known wherever it goes.",
        costs: "An annotation for each place that has none; `leitmotiv annotate` writes those that there is evidence for.",
        fails: "def fare(distance, rate=2.5):\n    return distance * rate\n",
        holds: "def fare(distance: float, rate: float = 2.5) -> float:\n    return distance * rate\n",
    },
};
