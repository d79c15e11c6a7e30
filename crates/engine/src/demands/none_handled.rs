use super::Demand;

pub static DEMAND: Demand = Demand {
    slug: "none-handled",
    asks: "a value that may be None is handled before use",
    rules: &[
        "none.argument",
        "none.call",
        "none.correlated",
        "none.index",
        "none.iteration",
        "none.member",
        "none.operand",
    ],
};
