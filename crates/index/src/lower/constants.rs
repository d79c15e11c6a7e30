//! Conditions whose outcome the target version and platform decide (typing specification, "Version and platform
//! checking"), also where they are kept in a name of the module first, as in `PY3 = sys.version_info[0] == 3`.

use leitmotiv_syntax::names::{Name, known};

use super::Lower;
use crate::tree::*;

/// A part of the version.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Version {
    /// `sys.version_info`, or its first items
    Whole,
    /// `sys.version_info[0]`
    Major,
    /// `sys.version_info[1]`
    Minor,
    /// `sys.hexversion`
    Packed,
}

impl Lower<'_> {
    /// Notes what a name of the module is assigned, if that is known from the start.
    pub(super) fn note_constant(&mut self, name: Name, value: ExprId) {
        if self.flow.reach.is_never() {
            // `PY3 = False` where the version says otherwise: the other assignment is decided by the version, too.
            let live = self.index.scopes[ScopeId(0)].symbols.get(&name).and_then(|symbol| symbol.defs.first());
            if let Some(live) = live
                && let DefKind::Assign { value, .. } = self.index.defs[*live].kind
                && let Expr::Bool(outcome) = self.index.exprs[value]
            {
                self.index.constants.entry(name).or_insert(Some(outcome));
            }
            return;
        }
        let symbol = self.index.scopes[ScopeId(0)].symbols.get(&name);
        let is_live = |def: &DefId| !self.index.defs[*def].reach.is_never();
        let (known_before, dead_before) =
            symbol.map_or((false, false), |symbol| (symbol.defs.iter().any(is_live), !symbol.defs.iter().all(is_live)));
        if known_before {
            // Assigned more than once: not decided by the first.
            self.index.constants.insert(name, None);
            self.versions.remove(&name);
        } else if let Expr::Bool(outcome) = self.index.exprs[value]
            && dead_before
        {
            self.index.constants.insert(name, Some(outcome));
        } else if let Some(outcome) = self.static_outcome(value)
            && !matches!(self.index.exprs[value], Expr::Bool(_) | Expr::Int(_))
        {
            self.index.constants.insert(name, Some(outcome));
        } else if let Some(version) = self.version(value) {
            self.versions.insert(name, version);
        }
    }

    /// What a condition always comes out as on the target version and platform.
    pub(super) fn static_outcome(&self, expr: ExprId) -> Option<bool> {
        match &self.index.exprs[expr] {
            Expr::Bool(value) => Some(*value),
            Expr::Int(Some(value)) => Some(*value != 0),
            Expr::Name(known::TYPE_CHECKING, _) | Expr::Attribute { name: known::TYPE_CHECKING, .. } => Some(true),
            Expr::Name(name, _) if self.is_module_name(expr) => self.index.constants.get(name).copied().flatten(),
            Expr::Name(..) => self.default_of(expr).and_then(|default| match self.index.exprs[default] {
                Expr::Name(..) => self.static_outcome(default),
                _ => None,
            }),
            Expr::Unary { op: UnaryOp::Not, operand } => self.static_outcome(*operand).map(|outcome| !outcome),
            Expr::Compare { left, rest } => {
                let [(op, right)] = rest.as_ref() else { return None };
                self.static_comparison(*left, *op, *right)
            }
            Expr::Call { callee, args } => {
                // sys.platform.startswith("win")
                let Expr::Attribute { value, name, .. } = self.index.exprs[*callee] else { return None };
                let [Arg { value: arg, .. }] = args.as_ref() else { return None };
                if !self.is_sys(value, known::PLATFORM) || self.name_text(name) != "startswith" {
                    return None;
                }
                let Expr::Str(Some(prefix)) = self.index.exprs[*arg] else { return None };
                Some(self.target.platform.starts_with(self.name_text(prefix)))
            }
            _ => None,
        }
    }

    /// Whether a name means that of the module here.
    fn is_module_name(&self, expr: ExprId) -> bool {
        let Expr::Name(_, value) = self.index.exprs[expr] else { return false };
        match self.index.values[self.index.unnarrowed(value)] {
            Value::Global(_) => true,
            Value::Def(def) => self.index.defs[def].scope == ScopeId(0),
            _ => false,
        }
    }

    /// The default of the parameter that a name holds here: `def encode(s, _PY3=PY3)` makes a local name of a constant.
    fn default_of(&self, expr: ExprId) -> Option<ExprId> {
        let Expr::Name(_, value) = self.index.exprs[expr] else { return None };
        let Value::Def(def) = self.index.values[self.index.unnarrowed(value)] else { return None };
        let DefKind::Param { function, index } = self.index.defs[def].kind else { return None };
        self.index.functions[function].params.get(index as usize)?.default
    }

    /// The import that gives a name its value here, if it is the only one that the module has for it; of `six.PY2`, that of the
    /// module, and the attribute.
    pub(super) fn imported_constant(&self, expr: ExprId) -> Option<(DefId, Option<Name>)> {
        let expr = self.default_of(expr).unwrap_or(expr);
        if let Expr::Attribute { value, name: attribute, .. } = self.index.exprs[expr]
            && let Expr::Name(name, _) = self.index.exprs[value]
            && self.is_module_name(value)
        {
            let symbol = self.index.scopes[ScopeId(0)].symbols.get(&name)?;
            let [def] = symbol.defs.as_slice() else { return None };
            let is_import = matches!(self.index.defs[*def].kind, DefKind::Import { .. });
            return is_import.then_some((*def, Some(attribute)));
        }
        let Expr::Name(name, _) = self.index.exprs[expr] else { return None };
        if !self.is_module_name(expr) {
            return None;
        }
        let symbol = self.index.scopes[ScopeId(0)].symbols.get(&name)?;
        let [def] = symbol.defs.as_slice() else { return None };
        matches!(self.index.defs[*def].kind, DefKind::ImportFrom { .. }).then_some((*def, None))
    }

    /// `os.name`, as the target platform has it.
    fn os_name(&self, expr: ExprId) -> Option<&'static str> {
        let Expr::Attribute { value, name, .. } = self.index.exprs[expr] else { return None };
        let Expr::Name(module, _) = self.index.exprs[value] else { return None };
        let is_os = self.name_text(module) == "os" && self.name_text(name) == "name" && self.is_module_name(value);
        is_os.then(|| if self.target.platform.starts_with("win") { "nt" } else { "posix" })
    }

    fn static_comparison(&self, left: ExprId, op: CompareOp, right: ExprId) -> Option<bool> {
        let exprs = &self.index.exprs;
        if let Some(own) = self.os_name(left)
            && let Expr::Str(Some(other)) = exprs[right]
        {
            let is_same = own == self.name_text(other);
            return match op {
                CompareOp::Eq => Some(is_same),
                CompareOp::NotEq => Some(!is_same),
                _ => None,
            };
        }
        // `str is bytes` asks for the language of old.
        if let (Expr::Name(one, _), Expr::Name(other, _)) = (&exprs[left], &exprs[right])
            && matches!((*one, *other), (known::STR, known::BYTES) | (known::BYTES, known::STR))
        {
            return match op {
                CompareOp::Is | CompareOp::Eq => Some(false),
                CompareOp::IsNot | CompareOp::NotEq => Some(true),
                _ => None,
            };
        }
        if self.is_sys(left, known::PLATFORM) {
            let Expr::Str(Some(text)) = exprs[right] else { return None };
            let equal = self.target.platform == self.name_text(text);
            return match op {
                CompareOp::Eq => Some(equal),
                CompareOp::NotEq => Some(!equal),
                _ => None,
            };
        }
        let (major, minor) = (i64::from(self.target.version.0), i64::from(self.target.version.1));
        let number = |expr: ExprId| if let Expr::Int(Some(number)) = exprs[expr] { Some(number) } else { None };
        let ordering = match self.version(left)? {
            Version::Whole => {
                let Expr::Tuple(parts) = &exprs[right] else { return None };
                let numbers: Vec<i64> = parts.iter().map_while(|part| number(*part)).collect();
                // The patch level is taken as higher than any that is asked for, so that what is behind it decides nothing.
                let whole = [major, minor, i64::MAX];
                if numbers.len() < parts.len() && whole.starts_with(&numbers) {
                    return None;
                }
                whole.as_slice().cmp(numbers.as_slice())
            }
            Version::Major => major.cmp(&number(right)?),
            Version::Minor => minor.cmp(&number(right)?),
            // A number of four bytes, of which the last two say the patch level (library reference, "sys.hexversion").
            Version::Packed => {
                let asked = number(right)?;
                // The patch level is taken as higher than any that is asked for.
                ((major << 8) | minor).cmp(&(asked >> 16)).then(std::cmp::Ordering::Greater)
            }
        };
        match op {
            CompareOp::Lt => Some(ordering.is_lt()),
            CompareOp::LtE => Some(ordering.is_le()),
            CompareOp::Gt => Some(ordering.is_gt()),
            CompareOp::GtE => Some(ordering.is_ge()),
            CompareOp::Eq => Some(ordering.is_eq()),
            CompareOp::NotEq => Some(ordering.is_ne()),
            _ => None,
        }
    }

    /// The part of the version that an expression reads.
    fn version(&self, expr: ExprId) -> Option<Version> {
        if self.is_sys(expr, known::VERSION_INFO) {
            return Some(Version::Whole);
        }
        if let Expr::Attribute { name, .. } = self.index.exprs[expr]
            && self.name_text(name) == "hexversion"
            && self.is_sys(expr, name)
        {
            return Some(Version::Packed);
        }
        match self.index.exprs[expr] {
            Expr::Name(name, _) if self.is_module_name(expr) => self.versions.get(&name).copied(),
            Expr::Attribute { value, name, .. } if self.version(value) == Some(Version::Whole) => {
                match self.name_text(name) {
                    "major" => Some(Version::Major),
                    "minor" => Some(Version::Minor),
                    _ => None,
                }
            }
            Expr::Subscript { value, index, .. } if self.version(value) == Some(Version::Whole) => {
                match &self.index.exprs[index] {
                    Expr::Int(Some(0)) => Some(Version::Major),
                    Expr::Int(Some(1)) => Some(Version::Minor),
                    Expr::Slice(slice) if slice.lower.is_none() && slice.step.is_none() => Some(Version::Whole),
                    _ => None,
                }
            }
            _ => None,
        }
    }

    fn is_sys(&self, expr: ExprId, attribute: Name) -> bool {
        matches!(self.index.exprs[expr], Expr::Attribute { value, name, .. }
            if name == attribute && matches!(self.index.exprs[value], Expr::Name(known::SYS, _)))
    }
}
