use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "declared-attributes",
    asks: "instance attributes are declared in the class body or set in `__init__`",
    rules: &["class.late-attribute"],
    asks_of: |_| true,
    page: Page {
        means: "Each attribute that a method assigns on its own object is declared in the class body, in that of a base, or set by `__init__`.",
        gives: "What an object has is read in one place, and no method depends on another one having run first.",
        costs: "A line in the class body or in `__init__` for each attribute; where there is no value yet, None and checks for it.",
        fails: "class Ferry:\n    def __init__(self, name: str) -> None:\n        self.name = name\n\n    def board(self, cars: int) -> None:\n        self.cars = cars\n",
        holds: "class Ferry:\n    def __init__(self, name: str) -> None:\n        self.name = name\n        self.cars = 0\n\n    def board(self, cars: int) -> None:\n        self.cars = cars\n",
    },
};
