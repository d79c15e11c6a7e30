use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "known-values",
    asks: "no unknown value is used",
    rules: &["unknown.value"],
    asks_of: |_| true,
    page: Page {
        means: "No expression has an unknown type, but for values that nobody takes. An explicit `Any` is not unknown; `no-any` asks about that. A finding counts all values of a function that are unknown for one reason.",
        gives: "Every attribute, call and operand is checked: no mistake is hidden by what cannot be told.",
        costs: "Annotations of parameters, mostly; stubs for packages without types; checks for what comes from outside.",
        fails: "def price(distance, rate: float) -> float:\n    return rate * distance\n",
        holds: "def price(distance: float, rate: float) -> float:\n    return rate * distance\n",
    },
};
