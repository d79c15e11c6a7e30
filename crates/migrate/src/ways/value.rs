//! What is given becomes something else: spelled another way, converted.

use leitmotiv_engine::findings::act::Act;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::rules::Remedy;
use leitmotiv_syntax::ast::Expr;
use leitmotiv_syntax::edits::Edit;

use super::{Way, Ways};

/// The longest piece of code that a title repeats, in characters.
const LONGEST: usize = 48;

impl Ways<'_> {
    pub(super) fn value(&mut self, finding: &Finding, remedy: &Remedy, way: &mut Way) -> Option<()> {
        let code = self.code(finding.file);
        let one = |edit| vec![(finding.file, edit)];
        match remedy.act.as_ref()? {
            Act::Replace(range, text) => {
                way.edits = one(Edit::replace(*range, text.clone()));
                let before = code.slice(*range);
                way.title = match before {
                    "" => format!("{}: write `{}`", way.title, text.trim()),
                    _ => format!("write `{text}` in place of `{before}`"),
                };
                if text == "await " {
                    // Only where something can be awaited.
                    code.function(*range).filter(|function| function.is_async)?;
                    way.title = "await it".to_owned();
                }
            }
            Act::Wrap(range, call) => {
                let is_number = matches!(code.expression(*range), Some(Expr::NumberLiteral(_) | Expr::BinOp(_)));
                let new = format!("{call}({})", code.slice(*range));
                way.edits = one(Edit::replace(*range, new.clone()));
                way.title = written(&new, &format!("convert it with `{call}(…)`"));
                way.price = match (*call, way.id) {
                    ("int", _) if is_number => "what stands behind the point is cut off".to_owned(),
                    ("int" | "float", _) => "ValueError where the text is no number".to_owned(),
                    (_, "copy") => return Some(()),
                    _ => "nothing, if that text is meant".to_owned(),
                };
            }
            Act::Append(range, text) => {
                let value = code.slice(*range);
                let is_closed = code.expression(*range).is_some_and(|expr| {
                    matches!(
                        expr,
                        Expr::Name(_)
                            | Expr::Attribute(_)
                            | Expr::Call(_)
                            | Expr::Subscript(_)
                            | Expr::StringLiteral(_)
                            | Expr::BytesLiteral(_)
                    )
                });
                let new = if is_closed { format!("{value}{text}") } else { format!("({value}){text}") };
                way.edits = one(Edit::replace(*range, new.clone()));
                way.title = written(&new, &format!("convert it: `{text}`"));
                way.price = match *text {
                    ".decode()" => "UnicodeDecodeError where the bytes are no UTF-8".to_owned(),
                    ".encode()" => "the text goes out as UTF-8".to_owned(),
                    _ => "nothing".to_owned(),
                };
            }
            _ => return None,
        }
        Some(())
    }
}

fn written(new: &str, otherwise: &str) -> String {
    if new.chars().count() > LONGEST || new.contains('\n') { otherwise.to_owned() } else { format!("write `{new}`") }
}
