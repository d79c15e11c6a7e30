use super::Demand;

pub static DEMAND: Demand = Demand {
    slug: "full-signatures",
    asks: "every function has all parameters and its return annotated",
    rules: &["annotation.missing"],
};
