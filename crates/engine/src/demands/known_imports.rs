use super::{Demand, Page};

pub static DEMAND: Demand = Demand {
    slug: "known-imports",
    asks: "every import leads to something with types",
    rules: &["import.unresolved", "import.untyped"],
    asks_of: |_| true,
    page: Page {
        means: "No import leads nowhere, and none to a package that says nothing of its types.",
        gives: "Nothing is unknown because of what is imported.",
        costs: "A package to install, or a stub: `leitmotiv stub write MODULE` makes one from the package itself.",
        fails: "import tidelib\n\nlevel = tidelib.level(\"north\")\n",
        holds: "import statistics\n\nlevel = statistics.mean([1.5, 2.0])\n",
    },
};
