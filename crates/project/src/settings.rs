//! Configuration: one table of keys, from which reading, error messages and `docs/configuration.md` follow.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use toml::{Table, Value};

/// How much a finding weighs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Severity {
    /// Not reported.
    Off,
    /// Worth knowing.
    Note,
    /// Likely wrong.
    Warning,
    /// Wrong.
    Error,
}

impl Severity {
    /// All names, as configuration and options take them.
    pub const NAMES: [&'static str; 4] = ["error", "warning", "note", "off"];

    /// Reads a severity's name.
    #[must_use]
    pub fn parse(name: &str) -> Option<Severity> {
        match name {
            "error" => Some(Severity::Error),
            "warning" => Some(Severity::Warning),
            "note" => Some(Severity::Note),
            "off" => Some(Severity::Off),
            _ => None,
        }
    }

    /// The severity's name.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Severity::Error => "error",
            Severity::Warning => "warning",
            Severity::Note => "note",
            Severity::Off => "off",
        }
    }
}

/// What is configured. Paths and patterns are relative to the project.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Settings {
    /// Folders and files that are checked.
    pub sources: Vec<String>,
    /// Patterns of what is left alone.
    pub leave: Vec<String>,
    /// Folders of local stubs.
    pub stubs: Vec<String>,
    /// The interpreter, or the environment's folder.
    pub interpreter: Option<String>,
    /// The language version.
    pub python: Option<(u8, u8)>,
    /// The platform, as `sys.platform` names it.
    pub platform: String,
    /// Demands on the whole project.
    pub demands: Vec<String>,
    /// Severities by rule or `family.*`, in the order of the file.
    pub severity: Vec<(String, Severity)>,
    /// Areas, in the order of the file; later ones win.
    pub areas: Vec<AreaSettings>,
    /// Where checks are kept.
    pub cache: CacheFolder,
}

/// Where checks are kept.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub enum CacheFolder {
    /// In the user's own folder for such things.
    #[default]
    Users,
    /// In a folder of the project, relative to it.
    In(String),
    /// Nowhere.
    None,
}

/// One `[[area]]`.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct AreaSettings {
    /// Patterns of the files concerned.
    pub paths: Vec<String>,
    /// Demands there, in place of the project's.
    pub demands: Option<Vec<String>>,
    /// Severities there, on top of the project's.
    pub severity: Vec<(String, Severity)>,
}

impl Default for Settings {
    fn default() -> Settings {
        Settings {
            sources: vec![".".to_owned()],
            leave: Vec::new(),
            stubs: vec!["stubs".to_owned()],
            interpreter: None,
            python: None,
            platform: "linux".to_owned(),
            demands: Vec::new(),
            severity: Vec::new(),
            areas: Vec::new(),
            cache: CacheFolder::Users,
        }
    }
}

/// What is wrong with a configuration file.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum SettingsError {
    /// Not TOML.
    #[error("not valid TOML: {0}")]
    Toml(String),
    /// A key that does not exist.
    #[error("unknown key `{key}`{}", near(.nearest.as_deref()))]
    UnknownKey {
        /// As written, with the tables around it.
        key: String,
        /// The key that comes nearest.
        nearest: Option<String>,
    },
    /// A value of the wrong kind.
    #[error("`{key}` must be {expected}")]
    Kind {
        /// The key.
        key: String,
        /// What is expected, in words.
        expected: &'static str,
    },
}

fn near(nearest: Option<&str>) -> String {
    nearest.map(|nearest| format!(" (is `{nearest}` meant?)")).unwrap_or_default()
}

/// The name among `known` that comes nearest to `word`, if one is near enough to be meant.
pub fn nearest<'a>(word: &str, known: impl IntoIterator<Item = &'a str>) -> Option<&'a str> {
    // Which letters a word has, as bits. A step from one word to another (a letter put in, left out, replaced, two swapped) changes at
    // most two of them.
    let letters = |word: &str| word.bytes().fold(0_u32, |letters, byte| letters | 1 << (byte & 31));
    let own = letters(word);
    known
        .into_iter()
        // Differences in length and in letters are a distance already; most candidates need no closer look.
        .filter(|candidate| {
            let longer = candidate.len().max(word.len());
            let least = candidate.len().abs_diff(word.len());
            let is_plain = word.is_ascii() && candidate.is_ascii();
            least * 3 <= longer && !(is_plain && (letters(candidate) ^ own).count_ones() as usize * 3 > longer * 2)
        })
        .map(|candidate| (strsim::osa_distance(word, candidate), candidate))
        // The underscores around a name say nothing of what it is called: `__exit__` is not `__init__`.
        .filter(|(distance, candidate)| *distance * 3 <= core(candidate).max(core(word)))
        .min_by_key(|(distance, candidate)| (*distance, *candidate))
        .map(|(_, candidate)| candidate)
}

/// How long a word is without the underscores around it.
fn core(word: &str) -> usize {
    word.trim_matches('_').len()
}

/// A configuration key.
pub struct Key {
    /// Its name.
    pub name: &'static str,
    /// What a value must be, in words.
    pub expected: &'static str,
    /// The default, as TOML, or in words.
    pub default: &'static str,
    /// What it does.
    pub doc: &'static str,
    /// A line that sets it.
    pub sample: &'static str,
    read: fn(&Value, &mut Settings) -> Result<(), SettingsError>,
}

/// All keys of the top level, in the order of the documentation.
pub static KEYS: &[Key] = &[
    Key {
        name: "sources",
        expected: "a list of paths",
        default: "[\".\"]",
        doc: "Folders and files that are checked. Folders named here are also searched for imports.",
        sample: "sources = [\"src\"]",
        read: |value, settings| {
            settings.sources = strings("sources", value, "a list of paths")?;
            Ok(())
        },
    },
    Key {
        name: "leave",
        expected: "a list of patterns",
        default: "[]",
        doc: "What is left alone: patterns relative to the project. `.gitignore` is honoured too.",
        sample: "leave = [\"**/migrations/**\"]",
        read: |value, settings| {
            settings.leave = strings("leave", value, "a list of patterns")?;
            Ok(())
        },
    },
    Key {
        name: "stubs",
        expected: "a list of folders",
        default: "[\"stubs\"]",
        doc: "Folders of local stubs, searched before anything else.",
        sample: "stubs = [\"stubs\"]",
        read: |value, settings| {
            settings.stubs = strings("stubs", value, "a list of folders")?;
            Ok(())
        },
    },
    Key {
        name: "interpreter",
        expected: "a path",
        default: "the active environment, `.venv`, or `python3` on the search path",
        doc: "The interpreter whose installed packages are read: an executable, an environment's folder, or a folder of packages.",
        sample: "interpreter = \".venv\"",
        read: |value, settings| {
            settings.interpreter = Some(string("interpreter", value, "a path")?);
            Ok(())
        },
    },
    Key {
        name: "python",
        expected: "a version such as \"3.11\"",
        default: "from `requires-python`, else the interpreter's",
        doc: "The language version that is checked for.",
        sample: "python = \"3.11\"",
        read: |value, settings| {
            let kind = || SettingsError::Kind { key: "python".into(), expected: "a version such as \"3.11\"" };
            let text = value.as_str().ok_or_else(kind)?;
            settings.python = Some(parse_version(text).ok_or_else(kind)?);
            Ok(())
        },
    },
    Key {
        name: "platform",
        expected: "a platform's name",
        default: "\"linux\"",
        doc: "What `sys.platform` is taken to be.",
        sample: "platform = \"win32\"",
        read: |value, settings| {
            settings.platform = string("platform", value, "a platform's name")?;
            Ok(())
        },
    },
    Key {
        name: "demands",
        expected: "a list of demands",
        default: "[]",
        doc: "Demands that the whole project is held to.",
        sample: "demands = [\"none-handled\"]",
        read: |value, settings| {
            settings.demands = strings("demands", value, "a list of demands")?;
            Ok(())
        },
    },
    Key {
        name: "severity",
        expected: "a table from rules to severities",
        default: "each rule's own",
        doc: "Severities by rule, or by family as `\"import.*\"`: `error`, `warning`, `note` or `off`.",
        sample: "severity = { \"call.argument\" = \"warning\" }",
        read: |value, settings| {
            settings.severity = severities("severity", value)?;
            Ok(())
        },
    },
    Key {
        name: "cache",
        expected: "a folder of the project, or false",
        default: "the user's own folder for such things",
        doc: "Where checks are kept, so that one that sees the same as before is there at once. Up to 1 GiB, the oldest out; `false` keeps none.",
        sample: "cache = \".leitmotiv/cache\"",
        read: |value, settings| {
            let expected = "a folder of the project, or false";
            let kind = || SettingsError::Kind { key: "cache".into(), expected };
            settings.cache = match value {
                Value::Boolean(false) => CacheFolder::None,
                value => {
                    let folder = string("cache", value, expected)?;
                    let is_below = std::path::Path::new(&folder)
                        .components()
                        .all(|part| matches!(part, std::path::Component::Normal(_) | std::path::Component::CurDir));
                    if folder.is_empty() || !is_below {
                        return Err(kind());
                    }
                    CacheFolder::In(folder)
                }
            };
            Ok(())
        },
    },
    Key {
        name: "area",
        expected: "a list of tables",
        default: "none",
        doc: "A set of `paths` (patterns) with `demands` and `severity` of its own. Later areas win.",
        sample: "area = [{ paths = [\"tests/**\"], demands = [], severity = { \"none.*\" = \"off\" } }]",
        read: |value, settings| {
            let kind = || SettingsError::Kind { key: "area".into(), expected: "a list of tables" };
            for area in value.as_array().ok_or_else(kind)? {
                settings.areas.push(area_settings(area.as_table().ok_or_else(kind)?)?);
            }
            Ok(())
        },
    },
];

/// The keys of an area.
const AREA_KEYS: [&str; 3] = ["paths", "demands", "severity"];

impl Settings {
    /// Reads a configuration file's text; in a `pyproject.toml`, the table `tool.leitmotiv`, and `None` where it has none.
    ///
    /// # Errors
    /// The first thing that is wrong with it.
    pub fn parse(text: &str, in_pyproject: bool) -> Result<Option<Settings>, SettingsError> {
        let table: Table = text.parse().map_err(|error: toml::de::Error| {
            let line = error.span().map(|span| text[..span.start.min(text.len())].lines().count().max(1));
            let place = line.map(|line| format!(" (line {line})")).unwrap_or_default();
            SettingsError::Toml(format!("{}{place}", error.message().replace('\n', " ")))
        })?;
        let table = if in_pyproject {
            match table.get("tool").and_then(|tool| tool.get("leitmotiv")) {
                Some(Value::Table(table)) => table.clone(),
                Some(_) => {
                    return Err(SettingsError::Kind { key: "tool.leitmotiv".into(), expected: "a table" });
                }
                None => return Ok(None),
            }
        } else {
            table
        };
        let mut settings = Settings::default();
        for (name, value) in &table {
            match KEYS.iter().find(|key| key.name == name) {
                Some(key) => (key.read)(value, &mut settings)?,
                None => return Err(unknown("", name, KEYS.iter().map(|key| key.name))),
            }
        }
        Ok(Some(settings))
    }
}

fn unknown<'a>(table: &str, key: &str, known: impl IntoIterator<Item = &'a str>) -> SettingsError {
    SettingsError::UnknownKey { key: format!("{table}{key}"), nearest: nearest(key, known).map(str::to_owned) }
}

fn string(key: &str, value: &Value, expected: &'static str) -> Result<String, SettingsError> {
    value.as_str().map(str::to_owned).ok_or_else(|| SettingsError::Kind { key: key.to_owned(), expected })
}

fn strings(key: &str, value: &Value, expected: &'static str) -> Result<Vec<String>, SettingsError> {
    let kind = || SettingsError::Kind { key: key.to_owned(), expected };
    value.as_array().ok_or_else(kind)?.iter().map(|item| string(key, item, expected)).collect()
}

fn severities(key: &str, value: &Value) -> Result<Vec<(String, Severity)>, SettingsError> {
    let table = value
        .as_table()
        .ok_or_else(|| SettingsError::Kind { key: key.to_owned(), expected: "a table from rules to severities" })?;
    table
        .iter()
        .map(|(rule, value)| {
            let severity = value.as_str().and_then(Severity::parse);
            severity.map(|severity| (rule.clone(), severity)).ok_or_else(|| SettingsError::Kind {
                key: format!("{key}.\"{rule}\""),
                expected: "`error`, `warning`, `note` or `off`",
            })
        })
        .collect()
}

fn area_settings(table: &Table) -> Result<AreaSettings, SettingsError> {
    let mut area = AreaSettings::default();
    for (name, value) in table {
        match name.as_str() {
            "paths" => area.paths = strings("area.paths", value, "a list of patterns")?,
            "demands" => area.demands = Some(strings("area.demands", value, "a list of demands")?),
            "severity" => area.severity = severities("area.severity", value)?,
            other => return Err(unknown("area.", other, AREA_KEYS)),
        }
    }
    if area.paths.is_empty() {
        return Err(SettingsError::Kind { key: "area.paths".into(), expected: "a list of patterns" });
    }
    Ok(area)
}

/// Reads `3.11` or `3.11.4`.
#[must_use]
pub fn parse_version(text: &str) -> Option<(u8, u8)> {
    let mut parts = text.split('.');
    let major = parts.next()?.parse().ok()?;
    let minor = parts.next()?.parse().ok()?;
    (major == 3).then_some((major, minor))
}

/// `docs/configuration.md`, made from [`KEYS`].
#[must_use]
pub fn documentation() -> String {
    let mut page = String::from(
        "# Configuration\n\nThis page is made from the table in `crates/project/src/settings.rs`; a test fails when it is stale.\n\n\
         Everything works without configuration. `leitmotiv init` writes a first `leitmotiv.toml`; the same keys may stand under\n\
         `[tool.leitmotiv]` in `pyproject.toml`. A key that does not exist is an error that names the nearest one.\n",
    );
    for key in KEYS {
        page.push_str(&format!(
            "\n## `{}`\n\n{}\n\nValue: {}. Default: {}.\n\n```toml\n{}\n```\n",
            key.name, key.doc, key.expected, key.default, key.sample
        ));
    }
    page
}

#[cfg(test)]
mod tests {
    use super::*;

    fn parse(text: &str) -> Result<Settings, SettingsError> {
        Settings::parse(text, false).map(Option::unwrap_or_default)
    }

    #[test]
    fn every_key_accepts_its_own_sample() {
        for key in KEYS {
            let settings = parse(key.sample).unwrap_or_else(|error| panic!("{}: {error}", key.name));
            assert!(settings != Settings::default() || key.sample.contains(key.default), "{}", key.name);
        }
    }

    #[test]
    fn an_unknown_key_names_the_nearest() {
        let error = parse("source = ['src']").unwrap_err();
        assert_eq!(error.to_string(), "unknown key `source` (is `sources` meant?)");
        let error = parse("[[area]]\npath = ['x']").unwrap_err();
        assert_eq!(error.to_string(), "unknown key `area.path` (is `paths` meant?)");
        assert_eq!(parse("wibble = 1").unwrap_err().to_string(), "unknown key `wibble`");
    }

    #[test]
    fn a_value_of_the_wrong_kind_says_what_is_expected() {
        assert_eq!(parse("sources = 'src'").unwrap_err().to_string(), "`sources` must be a list of paths");
        assert_eq!(parse("python = '2.7'").unwrap_err().to_string(), "`python` must be a version such as \"3.11\"");
        let error = parse("[severity]\n'call.argument' = 'fatal'").unwrap_err();
        assert_eq!(error.to_string(), "`severity.\"call.argument\"` must be `error`, `warning`, `note` or `off`");
        assert!(parse("[[area]]\ndemands = []").unwrap_err().to_string().contains("area.paths"));
    }

    #[test]
    fn broken_toml_is_told_in_one_line() {
        let message = parse("sources = [\n").unwrap_err().to_string();
        assert!(message.starts_with("not valid TOML: ") && !message.contains('\n'), "{message}");
    }

    #[test]
    fn the_page_of_all_keys_is_current() {
        let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/configuration.md");
        let page = documentation();
        let stored = std::fs::read_to_string(path).unwrap_or_default();
        if stored != page {
            std::fs::write(path, &page).unwrap();
            panic!("docs/configuration.md was stale; it has been written anew, commit it");
        }
    }
}
