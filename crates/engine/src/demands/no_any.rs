use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "no-any",
    asks: "no explicit `Any`",
    rules: &["annotation.any"],
    asks_of: |_| true,
    page: Page {
        means: "Nothing that the project itself wrote as a type is `Any`, or holds it. `Any` from a library is not asked about.",
        gives: "No value goes unchecked because somebody switched the check off for it.",
        costs: "A better type for each: `object`, a union, a protocol, a type variable.",
        fails: "from typing import Any\n\ndef label(berth: Any) -> str:\n    return f\"berth {berth}\"\n",
        holds: "def label(berth: object) -> str:\n    return f\"berth {berth}\"\n",
    },
};
