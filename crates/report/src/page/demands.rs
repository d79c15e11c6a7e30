//! Demands by packages.

use std::collections::BTreeSet;

use leitmotiv_migrate::tighten::cost::{Cost, Standing, grouped};
use maud::{Markup, html};

use crate::overview::Overview;
use crate::words::thousands;

/// So many packages have a row; those that lie deeper are put together.
const MOST_ROWS: usize = 24;

/// The table, with a row for each package.
pub(super) fn table(overview: &Overview) -> Markup {
    let costs = grouped(&overview.costs, MOST_ROWS);
    let packages: BTreeSet<&str> = costs.iter().map(|cost| cost.package.as_str()).collect();
    let of = |demand: &str, package: &str| costs.iter().find(|cost| cost.demand == demand && cost.package == package);
    html! {
        div.wide {
            table.matrix {
                thead {
                    tr {
                        th { "package" }
                        @for demand in &overview.demands {
                            th { div.tilted { (demand) } }
                        }
                    }
                }
                tbody {
                    @for package in packages {
                        tr {
                            td { (package) }
                            @for demand in &overview.demands {
                                @match of(demand, package) {
                                    Some(cost) => (cell(cost)),
                                    None => { td {} },
                                }
                            }
                        }
                    }
                }
            }
        }
        p.key {
            "held: all files are; owes 3: held, and 3 findings are owed; free: could be held now; a number: so many findings stand against it, \
             pale where they are few; –: it asks nothing yet."
        }
    }
}

fn cell(cost: &Cost) -> Markup {
    let (class, words) = match cost.standing() {
        Standing::Held => ("held", "held".to_owned()),
        Standing::Owing => ("held", format!("owes {}", thousands(cost.owed))),
        Standing::Free => ("free", "free".to_owned()),
        Standing::Cheap => ("cheap", thousands(cost.findings)),
        Standing::Dear => ("dear", thousands(cost.findings)),
        Standing::Idle => ("", "–".to_owned()),
        Standing::Untold => ("", "?".to_owned()),
    };
    html! { td class={ "state " (class) } { (words) } }
}
