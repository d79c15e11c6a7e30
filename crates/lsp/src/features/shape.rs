//! What folds, and what a selection grows to.

use leitmotiv_engine::base::file::File;
use leitmotiv_syntax::structure::{self, FoldKind};
use lsp_types::{FoldingRange, FoldingRangeKind, FoldingRangeParams, SelectionRange, SelectionRangeParams};

use super::Answer;
use crate::snapshot::Snapshot;

/// `textDocument/foldingRange`
///
/// # Errors
/// None.
pub fn folding(snapshot: &Snapshot, file: File, _: FoldingRangeParams) -> Answer<Option<Vec<FoldingRange>>> {
    let text = snapshot.text(file);
    let mut found: Vec<FoldingRange> = Vec::new();
    for fold in structure::folds(text.text) {
        let range = text.range(fold.range);
        let one = FoldingRange {
            start_line: range.start.line,
            start_character: None,
            end_line: range.end.line,
            end_character: None,
            kind: match fold.kind {
                FoldKind::Code => None,
                FoldKind::Imports => Some(FoldingRangeKind::Imports),
                FoldKind::Comment => Some(FoldingRangeKind::Comment),
            },
            collapsed_text: None,
        };
        // Of what begins on one line, clients show the first.
        let is_known =
            found.iter().rev().any(|known| (known.start_line, known.end_line) == (one.start_line, one.end_line));
        if one.start_line < one.end_line && !is_known {
            found.push(one);
        }
    }
    Ok(Some(found))
}

/// `textDocument/selectionRange`
///
/// # Errors
/// None.
pub fn selection(snapshot: &Snapshot, file: File, params: SelectionRangeParams) -> Answer<Option<Vec<SelectionRange>>> {
    let text = snapshot.text(file);
    let grown = params.positions.iter().map(|position| {
        let around = structure::around(text.text, text.offset(*position));
        let outermost_first = around.iter().rev();
        let nested = outermost_first.fold(None, |parent: Option<Box<SelectionRange>>, range| {
            Some(Box::new(SelectionRange { range: text.range(*range), parent }))
        });
        nested.map_or_else(
            || SelectionRange { range: lsp_types::Range::new(*position, *position), parent: None },
            |nested| *nested,
        )
    });
    Ok(Some(grown.collect()))
}
