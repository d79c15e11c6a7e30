use super::Demand;

pub static DEMAND: Demand = Demand {
    slug: "known-imports",
    asks: "every import leads to something with types",
    rules: &["import.unresolved", "import.untyped"],
};
