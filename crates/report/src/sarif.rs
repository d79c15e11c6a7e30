//! Findings in the Static Analysis Results Interchange Format (OASIS, SARIF 2.1.0), for forges and viewers; what of it is used is told in
//! `docs/formats.md`.

use std::collections::BTreeMap;

use leitmotiv_engine::rules::{self, Rule};
use leitmotiv_project::settings::Severity;
use serde_json::{Map, Value, json};

use crate::document::{Document, Entry, Place, Step, WayOut};

/// The name of the folder that paths are relative to.
const BASE: &str = "PROJECT";

/// The name of the fingerprint, with the version of how it is made.
const FINGERPRINT: &str = "leitmotiv/1";

/// A document as SARIF, ending in a line end.
#[must_use]
pub fn log(document: &Document, version: &str) -> String {
    let used: Vec<&'static Rule> = {
        let mut slugs: Vec<&str> = document.entries.iter().map(|entry| entry.rule).collect();
        slugs.sort_unstable();
        slugs.dedup();
        slugs.into_iter().filter_map(rules::by_slug).collect()
    };
    let mut seen: BTreeMap<String, usize> = BTreeMap::new();
    let results: Vec<Value> = document.entries.iter().map(|entry| result(entry, &used, &mut seen)).collect();
    let log = json!({
        "$schema": "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": {"driver": {
                "name": "Leitmotiv",
                "semanticVersion": version,
                "rules": used.iter().map(|rule| described(rule)).collect::<Vec<_>>(),
            }},
            "columnKind": "unicodeCodePoints",
            "invocations": [{"executionSuccessful": true}],
            "results": results,
        }],
    });
    // Plain data: serialising cannot fail.
    let mut text = serde_json::to_string_pretty(&log).unwrap_or_default();
    text.push('\n');
    text
}

fn level(severity: Severity) -> &'static str {
    match severity {
        Severity::Error => "error",
        Severity::Warning => "warning",
        Severity::Note => "note",
        Severity::Off => "none",
    }
}

/// A rule with its page.
fn described(rule: &Rule) -> Value {
    json!({
        "id": rule.slug,
        "shortDescription": {"text": rule.summary},
        "fullDescription": {"text": rule.page.means},
        "help": {"text": format!("{}\n\n{}", rule.page.means, rule.page.at_run_time), "markdown": rules::page(rule, 3)},
        "defaultConfiguration": {"level": level(rule.severity)},
    })
}

fn result(entry: &Entry, used: &[&'static Rule], seen: &mut BTreeMap<String, usize>) -> Value {
    // The same thing twice in one function has two fingerprints.
    let key = format!("{} {} {} {}", entry.rule, entry.place.path, entry.symbol, entry.fingerprint);
    let number = seen.entry(key.clone()).or_default();
    *number += 1;
    let mut result = Map::new();
    result.insert("ruleId".into(), json!(entry.rule));
    if let Some(place) = used.iter().position(|rule| rule.slug == entry.rule) {
        result.insert("ruleIndex".into(), json!(place));
    }
    result.insert("level".into(), json!(level(entry.severity)));
    result.insert("message".into(), json!({"text": entry.message}));
    let mut location = location(&entry.place);
    if let (Some(location), false) = (location.as_object_mut(), entry.symbol.is_empty()) {
        location.insert("logicalLocations".into(), json!([{"fullyQualifiedName": entry.symbol}]));
    }
    result.insert("locations".into(), json!([location]));
    let fingerprint = format!("{:016x}", hash(&format!("{key} {number}")));
    result.insert("partialFingerprints".into(), json!({FINGERPRINT: fingerprint}));
    result.insert("baselineState".into(), json!(if entry.owed { "unchanged" } else { "new" }));
    if entry.owed {
        let debt = json!([{"kind": "external", "justification": "owed in leitmotiv.ledger"}]);
        result.insert("suppressions".into(), debt);
    }
    if !entry.steps.is_empty() {
        let here = json!({"location": with_message(&entry.place, &entry.message), "importance": "essential"});
        let steps = entry.steps.iter().map(step).chain([here]);
        result.insert("codeFlows".into(), json!([{"threadFlows": [{"locations": steps.collect::<Vec<_>>()}]}]));
    }
    let fixes: Vec<Value> = entry.ways.iter().filter(|way| !way.edits.is_empty()).map(fix).collect();
    if !fixes.is_empty() {
        result.insert("fixes".into(), json!(fixes));
    }
    Value::Object(result)
}

/// A way out as its changes, file by file.
fn fix(way: &WayOut) -> Value {
    let mut files: BTreeMap<&str, Vec<Value>> = BTreeMap::new();
    for (place, text) in &way.edits {
        let replacement = json!({"deletedRegion": region(place), "insertedContent": {"text": text}});
        files.entry(&place.path).or_default().push(replacement);
    }
    let changes: Vec<Value> = files
        .into_iter()
        .map(|(path, replacements)| json!({"artifactLocation": artifact(path), "replacements": replacements}))
        .collect();
    json!({"description": {"text": format!("{} (price: {})", way.title, way.price)}, "artifactChanges": changes})
}

fn step(step: &Step) -> Value {
    json!({"location": with_message(&step.place, &step.text), "kinds": [step.kind], "importance": "important"})
}

fn with_message(place: &Place, text: &str) -> Value {
    let mut location = location(place);
    if let Some(location) = location.as_object_mut() {
        location.insert("message".into(), json!({"text": text}));
    }
    location
}

/// A place.
fn location(place: &Place) -> Value {
    json!({"physicalLocation": {"artifactLocation": artifact(&place.path), "region": region(place)}})
}

/// A file; what is none of the project's folder, as a bundled stub, has no base.
fn artifact(path: &str) -> Value {
    let is_inside = !path.starts_with(['<', '/']) && !path.contains(':');
    match is_inside {
        true => json!({"uri": encoded(path), "uriBaseId": BASE}),
        false => json!({"uri": encoded(path)}),
    }
}

fn region(place: &Place) -> Value {
    let (start, end) = (place.start, place.end);
    json!({"startLine": start.line, "startColumn": start.column, "endLine": end.line, "endColumn": end.column})
}

/// A path as a relative reference (RFC 3986): all but unreserved characters and `/` by their bytes.
fn encoded(path: &str) -> String {
    let mut out = String::with_capacity(path.len());
    for byte in path.bytes() {
        if byte.is_ascii_alphanumeric() || b"-._~/".contains(&byte) {
            out.push(char::from(byte));
        } else {
            out.push_str(&format!("%{byte:02X}"));
        }
    }
    out
}

/// The hash of Fowler, Noll and Vo, which is the same on all machines (FNV-1a, 64 bits).
fn hash(text: &str) -> u64 {
    text.bytes().fold(0xcbf2_9ce4_8422_2325, |hash, byte| (hash ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn paths_are_references() {
        assert_eq!(encoded("skerry/new one.py"), "skerry/new%20one.py");
        assert_eq!(encoded("fleet ä#.py"), "fleet%20%C3%A4%23.py");
        assert_eq!(hash(""), 0xcbf2_9ce4_8422_2325);
        assert_eq!(hash("a"), 0xaf63_dc4c_8601_ec8c);
    }
}
