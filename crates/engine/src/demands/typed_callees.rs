use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "typed-callees",
    asks: "annotated code calls no unannotated function of this project",
    rules: &["call.unannotated"],
    asks_of: |index| index.functions.iter().any(|(_, function)| function.is_annotated()),
    page: Page {
        means: "A function that has annotations calls no function, method or constructor of the project that has none. The text of modules outside of functions is not asked about.",
        gives: "What was annotated stands on something: arguments are held against what is declared, and results are known.",
        costs: "Signatures of the functions that are called; they are mostly few.",
        fails: "def fare(distance, rate):\n    return distance * rate\n\ndef price(distance: float) -> float:\n    return fare(distance, 2.5) + 1\n",
        holds: "def fare(distance: float, rate: float) -> float:\n    return distance * rate\n\ndef price(distance: float) -> float:\n    return fare(distance, 2.5) + 1\n",
    },
};
