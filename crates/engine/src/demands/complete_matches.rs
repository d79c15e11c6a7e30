use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "complete-matches",
    asks: "branches over a closed set handle every member",
    rules: &["flow.incomplete-match"],
    asks_of: |_| true,
    page: Page {
        means: "Where `match` or a chain of `if` and `elif` tells the members of a closed set apart (an enumeration, literals, a union that somebody declared), each has its branch, or there is one for the rest. Code behind branches that all leave counts as the branch for the rest.",
        gives: "A member that is added later is told at every place that must handle it, instead of running through.",
        costs: "A branch for each member that is left out; `assert_never` in a last `else` says that there is none.",
        fails: "from enum import Enum\n\nclass Sea(Enum):\n    CALM = 1\n    ROUGH = 2\n    STORM = 3\n\ndef advice(sea: Sea) -> str:\n    text = \"\"\n    match sea:\n        case Sea.CALM:\n            text = \"sail\"\n        case Sea.ROUGH:\n            text = \"wait\"\n    return text\n",
        holds: "from enum import Enum\n\nclass Sea(Enum):\n    CALM = 1\n    ROUGH = 2\n    STORM = 3\n\ndef advice(sea: Sea) -> str:\n    match sea:\n        case Sea.CALM:\n            text = \"sail\"\n        case Sea.ROUGH | Sea.STORM:\n            text = \"wait\"\n    return text\n",
    },
};
