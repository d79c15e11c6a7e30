//! What one process wrote: lines of fields between tabs, each complete or not there.

use rustc_hash::FxHashMap;

use crate::seen::{Seen, joined};

/// More calls than this nobody has seen; so counts can be added up.
const MOST: u64 = 1 << 48;

/// What one process wrote.
#[derive(Debug, Default)]
pub struct Process {
    /// The interpreter's version.
    pub python: String,
    /// When it began, in seconds since 1970.
    pub began: i64,
    /// Whether it came to its end.
    pub is_whole: bool,
    /// Files by their number: path, size in bytes, time of change in nanoseconds.
    pub files: FxHashMap<u32, (String, u64, u128)>,
    /// Functions by their number.
    pub functions: FxHashMap<u32, Function>,
    /// Call sites by their number: the file's number, the line (1-based), and whether other code stands in between.
    pub sites: FxHashMap<u32, (u32, u32, bool)>,
    /// Types by their number.
    pub types: FxHashMap<u32, Seen>,
    /// What classes derive from, nearest first, by module and name.
    pub bases: FxHashMap<Seen, Vec<Seen>>,
    /// The files that were run as `__main__`.
    pub main: Vec<String>,
    /// Calls: function, site, argument types, outcome, type; and how many.
    pub calls: FxHashMap<(u32, u32, Vec<u32>, char, u32), u64>,
    /// Attributes at the end of `__init__`: function, class, name, type; and how many.
    pub attributes: FxHashMap<(u32, u32, String, u32), u64>,
    /// Names of modules in the end: file, name, type.
    pub globals: Vec<(u32, String, u32)>,
}

/// A function as the recorder tells it.
#[derive(Debug)]
pub struct Function {
    /// The file's number.
    pub file: u32,
    /// The line that it begins on, decorators included; 1-based.
    pub line: u32,
    /// Its own name.
    pub name: String,
    /// Its parameters in the order of arguments, with their stars.
    pub params: Vec<String>,
}

/// Reads what a process wrote. What is no line of ours, or only the beginning of one, is passed over; `None` where it is nothing of ours.
pub fn read(bytes: &[u8]) -> Option<Process> {
    let text = String::from_utf8_lossy(bytes);
    let whole = &text[..=text.rfind('\n')?];
    let mut process = Process::default();
    let mut is_ours = false;
    for line in whole.lines() {
        let fields: Vec<&str> = line.split('\t').collect();
        if fields[0] == "H" {
            if fields.get(1) != Some(&"1") {
                return None;
            }
            is_ours = true;
        }
        let _ = one(&mut process, &fields);
    }
    is_ours.then_some(process)
}

fn one(process: &mut Process, fields: &[&str]) -> Option<()> {
    let text = |place: usize| fields.get(place).map(|field| unescaped(field));
    let number = |place: usize| fields.get(place)?.parse::<u32>().ok();
    match *fields.first()? {
        "H" => {
            process.python = text(2)?;
            process.began = fields.get(4)?.parse().ok()?;
        }
        "E" => process.is_whole = true,
        "P" => {
            let (size, changed) = (fields.get(3)?.parse().ok()?, fields.get(4)?.parse().ok()?);
            process.files.insert(number(1)?, (text(2)?, size, changed));
        }
        "F" => {
            let params = text(5)?.split(',').filter(|name| !name.is_empty()).map(str::to_owned).collect();
            let function = Function { file: number(2)?, line: number(3)?, name: text(4)?, params };
            process.functions.insert(number(1)?, function);
        }
        "C" => {
            process.sites.insert(number(1)?, (number(2)?, number(3)?, fields.get(4) == Some(&"1")));
        }
        "M" => process.main.push(text(2)?),
        "T" => {
            let seen = seen(process, fields)?;
            process.types.insert(number(1)?, seen);
        }
        "R" => {
            let args = numbers(fields.get(3)?);
            let key = (number(1)?, number(2)?, args, fields.get(4)?.chars().next()?, number(5)?);
            let count = fields.get(6)?.parse().ok().map(|count: u64| count.min(MOST))?;
            let known = process.calls.entry(key).or_default();
            *known = count.max(*known);
        }
        "A" => {
            let key = (number(1)?, number(2)?, text(3)?, number(4)?);
            let count = fields.get(5)?.parse().ok().map(|count: u64| count.min(MOST))?;
            let known = process.attributes.entry(key).or_default();
            *known = count.max(*known);
        }
        "G" => process.globals.push((number(1)?, text(2)?, number(3)?)),
        _ => {}
    }
    Some(())
}

fn seen(process: &mut Process, fields: &[&str]) -> Option<Seen> {
    let text = |place: usize| fields.get(place).map(|field| unescaped(field));
    let known = |place: usize| -> Option<Vec<Seen>> {
        numbers(fields.get(place).unwrap_or(&"")).iter().map(|number| process.types.get(number).cloned()).collect()
    };
    Some(match *fields.get(2)? {
        "none" => Seen::None,
        "bool" => Seen::Bool(None),
        "word" => match *fields.get(3)? {
            "true" => Seen::Bool(Some(true)),
            "false" => Seen::Bool(Some(false)),
            _ => Seen::Word(text(4)?),
        },
        "class" => {
            let class = Seen::Class(text(3)?, text(4)?);
            let above = known(5)?;
            if !above.is_empty() {
                process.bases.insert(class.clone(), above);
            }
            class
        }
        "type" => Seen::Type(Box::new(known(3)?.into_iter().next()?)),
        "tuple" => Seen::Tuple(known(3)?),
        "tuple*" => Seen::Items("tuple".to_owned(), joined(known(3)?)),
        shape @ ("dict" | "defaultdict" | "OrderedDict") => {
            Seen::Mapping(shape.to_owned(), joined(known(3)?), joined(known(4)?))
        }
        shape @ ("list" | "set" | "frozenset" | "deque") => Seen::Items(shape.to_owned(), joined(known(3)?)),
        _ => return None,
    })
}

fn numbers(text: &str) -> Vec<u32> {
    text.split(',').filter_map(|number| number.parse().ok()).collect()
}

fn unescaped(text: &str) -> String {
    if !text.contains('%') {
        return text.to_owned();
    }
    text.replace("%0A", "\n").replace("%0D", "\r").replace("%09", "\t").replace("%25", "%")
}

#[cfg(test)]
mod tests {
    use super::*;

    const LINES: &str = "T\t1\tnone\nH\t1\t3.12.1\t77\t1800000000\nP\t5\t/skerry/fleet.py\t10\t20\nF\t6\t5\t3\tadd\tself,vessel,*more\n\
        T\t7\tclass\tskerry.fleet\tFleet\t\nT\t8\tclass\tskerry.fleet\tTug\t7\nT\t9\ttuple\t\nC\t10\t5\t30\t\n\
        R\t6\t10\t7,8,9\tr\t1\t1\nR\t6\t10\t7,8,9\tr\t1\t4\nG\t5\ta%09b\t1\n";

    #[test]
    fn lines_are_read_and_the_last_count_holds() {
        let process = read(LINES.as_bytes()).unwrap();
        assert_eq!((process.python.as_str(), process.is_whole), ("3.12.1", false));
        assert_eq!(process.functions[&6].params, ["self", "vessel", "*more"]);
        assert_eq!(process.calls[&(6, 10, vec![7, 8, 9], 'r', 1)], 4);
        assert_eq!(process.globals, [(5, "a\tb".to_owned(), 1)]);
        let (fleet, tug) = (process.types[&7].clone(), process.types[&8].clone());
        assert_eq!(process.bases[&tug], [fleet]);
    }

    #[test]
    fn wherever_it_ends_what_stands_before_is_read() {
        for end in 0..LINES.len() {
            let process = read(&LINES.as_bytes()[..end]);
            assert_eq!(process.is_some(), end >= 34, "{end}");
        }
        assert!(read(b"something else\n\xff\xfe\tR\n").is_none());
    }
}
