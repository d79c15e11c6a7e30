//! Comments that hide nothing are taken out: they do nothing when the program runs, and hide the next mistake.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_syntax::comments::Meaning;
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::{TextRange, TextSize};

use super::{Way, Ways};

impl Ways<'_> {
    pub(super) fn unused(&mut self, finding: &Finding, way: &mut Way) -> Option<()> {
        way.edits = vec![(finding.file, taken_out(self.db, finding)?)];
        "take out the comment, which hides nothing".clone_into(&mut way.title);
        way.safe = true;
        Some(())
    }
}

/// The edit; `None` for a comment that allows several rules, of which some may be needed.
fn taken_out(db: &Database, finding: &Finding) -> Option<Edit> {
    let text = finding.file.text(db);
    let comment = module_index(db, finding.file).comments.iter().find(|comment| comment.range == finding.range)?;
    let (Some(Meaning::Allow { rules: names, .. }) | Some(Meaning::Ignore { codes: names, .. })) = &comment.meaning
    else {
        return None;
    };
    let [_] = names.as_slice() else { return None };
    let (start, end) = (usize::from(comment.range.start()), usize::from(comment.range.end()));
    let kept = text[..start].trim_end_matches([' ', '\t']).len();
    let is_alone = kept == 0 || text[..kept].ends_with(['\n', '\r']);
    // A line of its own goes as a whole.
    let (start, end) = match is_alone {
        true => {
            let rest = &text[end..];
            let line = if rest.starts_with("\r\n") { 2 } else { usize::from(!rest.is_empty()) };
            (kept, end + line)
        }
        false => (kept, end),
    };
    let at = |offset: usize| TextSize::try_from(offset).unwrap_or_default();
    Some(Edit::replace(TextRange::new(at(start), at(end)), String::new()))
}
