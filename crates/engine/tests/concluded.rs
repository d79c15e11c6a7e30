//! What lookups conclude of what is unknown because of parameters that nobody annotated. A `|` marks the place that is asked about.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::view::lookup;
use leitmotiv_project::{Project, Surroundings};
use leitmotiv_syntax::TextSize;

/// What is concluded, in words.
fn concluded(text: &str) -> Option<String> {
    let folder = tempfile::tempdir().unwrap();
    let root = folder.path().canonicalize().unwrap();
    let at = text.find('|').unwrap();
    std::fs::write(root.join("desk.py"), text.replacen('|', "", 1)).unwrap();
    let db = Database::new(Project::open(&root, None, &Surroundings::default()).unwrap());
    let file = db.source(&root.join("desk.py"));
    let answer = lookup::at(&db, file, TextSize::try_from(at).unwrap()).unwrap();
    answer.instead.map(|instead| instead.words(&db))
}

const FARES: &str = "
class Berth:
    def __init__(self, number, length):
        self.number = number
        self.length = length

    def half(self):
        return self.length / 2

def fits(berth, ship, note=None):
    room = berth.length - ship
    return room > 0

def outer(ship):
    return fits(Berth(3, 2.5), ship)

def unseen(ship):
    return ship.length

outer(3)
outer(4)
";

fn at(line: &str) -> Option<String> {
    let whole = line.replacen('|', "", 1);
    assert!(FARES.contains(&whole));
    concluded(&FARES.replacen(&whole, line, 1))
}

#[test]
fn parameters_are_what_calls_pass_also_through_functions_that_pass_it_on() {
    assert_eq!(at("berth|.length - ship").unwrap(), "concluded: `Berth`, from 1 call");
    assert_eq!(at("berth.length - sh|ip").unwrap(), "concluded: `int`, from 1 call");
    assert_eq!(at("2.5), shi|p").unwrap(), "concluded: `int`, from 2 calls");
}

#[test]
fn attributes_and_what_is_made_of_them_follow() {
    let words = "concluded: `float`, where `berth` is `Berth` (from 1 call)";
    assert_eq!(at("berth.leng|th - ship").unwrap(), words);
    assert_eq!(at("return roo|m").unwrap(), words);
    assert_eq!(at("return self.leng|th").unwrap(), "concluded: `float`, from 1 call");
}

#[test]
fn nothing_is_concluded_without_calls() {
    assert_eq!(at("return shi|p.length"), None);
}

#[test]
fn a_default_is_one_more_and_what_is_not_known_is_counted() {
    let text = "
def label(port, size=3):
    return port, si|ze

def outer(anything):
    label('north', 'large')
    label('south', anything)
";
    assert_eq!(concluded(text).unwrap(), "concluded: `str | int`, from 1 of 2 calls and the default");
}
