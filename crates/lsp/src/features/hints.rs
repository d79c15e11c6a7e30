//! Types that stand unwritten.

use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::annotate::hints::{self, Hint, HintKind};
use lsp_types::{InlayHint, InlayHintKind, InlayHintLabel, InlayHintParams, InlayHintTooltip};

use super::Answer;
use crate::snapshot::Snapshot;

/// `textDocument/inlayHint`
///
/// # Errors
/// None.
pub fn hints(snapshot: &Snapshot, file: File, params: InlayHintParams) -> Answer<Option<Vec<InlayHint>>> {
    let stretch = snapshot.text(file).bytes(params.range);
    let wanted = &snapshot.options.hints;
    let is_wanted = |hint: &Hint| match hint.kind {
        HintKind::Parameter => wanted.parameters,
        HintKind::Return => wanted.returns,
        HintKind::Variable => wanted.variables,
    };
    let found = hints::hints(&snapshot.session.db, file, stretch);
    Ok(Some(found.iter().filter(|hint| is_wanted(hint)).map(|hint| one(snapshot, file, hint)).collect()))
}

fn one(snapshot: &Snapshot, file: File, hint: &Hint) -> InlayHint {
    InlayHint {
        position: snapshot.text(file).position(hint.at),
        label: InlayHintLabel::String(hint.text.clone()),
        kind: Some(InlayHintKind::TYPE),
        text_edits: (!hint.edits.is_empty()).then(|| snapshot.edits(file, &hint.edits)),
        tooltip: Some(InlayHintTooltip::String(hint.why.clone())),
        padding_left: None,
        padding_right: None,
        data: None,
    }
}
