//! Type comments: of variables, parameters and signatures (PEP 484, "Type comments", "Suggested syntax for Python 2.7").

use leitmotiv_syntax::ast;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};

use super::Lower;
use super::definitions::list_params;
use crate::tree::*;

impl<'a> Lower<'a> {
    /// The type comment at the end of the line in which a place ends, lowered.
    pub(super) fn comment_at(&mut self, end: TextSize) -> Option<ExprId> {
        let line = self.index.lines.0.index_of(end);
        let range = self.type_comments.get(&line).copied()?;
        self.annotation_text(range)
    }

    /// What a type comment says of a part of several targets (`a, b = …  # type: int, str`); `None` where the parts cannot be
    /// told apart.
    pub(super) fn comment_part(&self, comment: ExprId, unpack: Option<&[UnpackStep]>) -> Option<ExprId> {
        let mut part = comment;
        for step in unpack.unwrap_or_default() {
            match &self.index.exprs[part] {
                Expr::Tuple(parts) if step.star.is_none() && parts.len() == step.count as usize => {
                    part = parts[step.index as usize];
                }
                _ => return None,
            }
        }
        Some(part)
    }

    /// How a target is bound that a comment may declare.
    pub(super) fn commented(&self, comment: Option<ExprId>, unpack: Option<&[UnpackStep]>) -> Option<DefKind> {
        let annotation = self.comment_part(comment?, unpack)?;
        Some(DefKind::Annotated { annotation, value: None })
    }

    /// Comments behind single parameters, one a line.
    pub(super) fn parameter_comments(
        &mut self,
        statement: &'a ast::StmtFunctionDef,
        annotations: &mut [Option<ExprId>],
    ) {
        let end = statement.parameters.range().end();
        let listed = list_params(&statement.parameters);
        let ends: Vec<TextSize> = listed
            .iter()
            .map(|listed| listed.default.map_or(listed.param.range().end(), |default| default.range().end()))
            .collect();
        for (place, slot) in annotations.iter_mut().enumerate() {
            let line = self.index.lines.0.index_of(ends[place]);
            let Some(range) = self.type_comments.get(&line).copied() else { continue };
            let is_last_on_line = ends.get(place + 1).is_none_or(|next| self.index.lines.0.index_of(*next) > line);
            if slot.is_none() && is_last_on_line && range.start() < end && !self.text[range].contains("->") {
                *slot = self.annotation_text(range);
            }
        }
    }

    /// `# type: (int, str) -> bool` in the line below the header, or beside it.
    pub(super) fn signature_comment(
        &mut self,
        statement: &'a ast::StmtFunctionDef,
        annotations: &mut [Option<ExprId>],
        returns: &mut Option<ExprId>,
    ) {
        let header = self.index.lines.0.index_of(statement.parameters.range().end());
        let first = statement.body.first().map_or(header, |first| self.index.lines.0.index_of(first.range().start()));
        for line in header..=first.min(header + 2) {
            let Some(range) = self.type_comments.get(&line).copied() else { continue };
            let text = &self.text[range];
            let Some(arrow) = text.find("->") else { continue };
            let offset = |at: usize| range.start() + TextSize::try_from(at).unwrap_or_default();
            let Some(open) = text.find('(') else { continue };
            let Some(close) = text[..arrow].rfind(')') else { continue };
            let inside = text[open + 1..close].trim();
            if !inside.is_empty() && inside != "..." {
                let parts = split(text, open + 1, close);
                // `self` may be left out.
                let skip = annotations.len().saturating_sub(parts.len()).min(1);
                for (slot, (start, end)) in annotations.iter_mut().skip(skip).zip(parts) {
                    *slot = self.annotation_text(TextRange::new(offset(start), offset(end)));
                }
            }
            *returns = self.annotation_text(TextRange::new(offset(arrow + 2), range.end()));
            return;
        }
    }
}

/// The parts of a list between two places of a text, in bytes, at the commas that no bracket or quotation encloses; without
/// white space, and without the stars of `*args` and `**kwargs`.
fn split(text: &str, start: usize, end: usize) -> Vec<(usize, usize)> {
    let mut parts = Vec::new();
    let (mut depth, mut quote, mut from) = (0_usize, None, start);
    let inside = text[start..end].char_indices().map(|(at, char)| (start + at, char));
    for (at, char) in inside.chain([(end, ',')]) {
        match (quote, char) {
            (Some(open), char) if open == char => quote = None,
            (Some(_), _) if at < end => {}
            (_, '"' | '\'') => quote = Some(char),
            (_, '[' | '(') => depth += 1,
            (_, ']' | ')') => depth = depth.saturating_sub(1),
            (_, ',') if depth == 0 || at == end => {
                let part = text[from..at].trim_end();
                let lead = part.len() - part.trim_start().trim_start_matches('*').len();
                if lead < part.len() {
                    parts.push((from + lead, from + part.len()));
                }
                from = at + 1;
            }
            _ => {}
        }
    }
    parts
}

#[cfg(test)]
mod tests {
    use super::split;

    #[test]
    fn lists_are_split_at_their_own_commas() {
        let text = "(int, Dict[str, int], *float, **'a, b', )";
        let parts: Vec<&str> =
            split(text, 1, text.len() - 1).into_iter().map(|(start, end)| &text[start..end]).collect();
        assert_eq!(parts, ["int", "Dict[str, int]", "float", "'a, b'"]);
        assert!(split("()", 1, 1).is_empty());
    }
}
