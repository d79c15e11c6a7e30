use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "marked-overrides",
    asks: "overrides are marked with `@override` (PEP 698)",
    rules: &["class.unmarked-override"],
    asks_of: |_| true,
    page: Page {
        means: "Each method that stands in for that of a base says so. Constructors, names with two leading underscores and what only `object` has need no mark.",
        gives: "A method of a base that is renamed, or one that stands in by accident, is told at once.",
        costs: "A decorator for each such method, which the tool can write; before Python 3.12 it comes from `typing_extensions`.",
        fails: "class Vessel:\n    def length(self) -> int:\n        return 10\n\nclass Barge(Vessel):\n    def length(self) -> int:\n        return 30\n",
        holds: "from typing import override\n\nclass Vessel:\n    def length(self) -> int:\n        return 10\n\nclass Barge(Vessel):\n    @override\n    def length(self) -> int:\n        return 30\n",
    },
};
