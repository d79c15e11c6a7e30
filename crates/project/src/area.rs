//! Severities and demands by path.

use globset::{Glob, GlobSet, GlobSetBuilder};

use crate::settings::{Settings, Severity};

/// The settings' areas with their patterns compiled.
#[derive(Debug, Clone)]
pub struct Areas {
    demands: Vec<String>,
    severity: Vec<(String, Severity)>,
    areas: Vec<(GlobSet, crate::settings::AreaSettings)>,
}

/// What holds for one file.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Local {
    /// Demands, in the order of the configuration.
    pub demands: Vec<String>,
    /// Severities by rule or `family.*`; the last that fits wins.
    pub severity: Vec<(String, Severity)>,
}

/// A pattern that is none.
#[derive(Debug, thiserror::Error)]
#[error("`{pattern}` is not a valid pattern")]
pub struct PatternError {
    /// As written.
    pub pattern: String,
}

/// Compiles patterns, relative to the project. A pattern without a wildcard also stands for all that lies below it.
///
/// # Errors
/// The first pattern that is none.
pub fn patterns(patterns: &[String]) -> Result<GlobSet, PatternError> {
    let mut builder = GlobSetBuilder::new();
    for pattern in patterns {
        let trimmed = pattern.trim_start_matches("./").trim_end_matches('/');
        let mut forms = vec![trimmed.to_owned()];
        if !trimmed.contains('*') {
            forms.push(format!("{trimmed}/**"));
        }
        for form in forms {
            builder.add(Glob::new(&form).map_err(|_| PatternError { pattern: pattern.clone() })?);
        }
    }
    builder.build().map_err(|_| PatternError { pattern: patterns.join(", ") })
}

impl Areas {
    /// Compiles the areas of `settings`.
    ///
    /// # Errors
    /// The first pattern that is none.
    pub fn new(settings: &Settings) -> Result<Areas, PatternError> {
        let areas = settings
            .areas
            .iter()
            .map(|area| Ok((patterns(&area.paths)?, area.clone())))
            .collect::<Result<_, PatternError>>()?;
        Ok(Areas { demands: settings.demands.clone(), severity: settings.severity.clone(), areas })
    }

    /// What holds for the file at `path`, relative to the project.
    #[must_use]
    pub fn local(&self, path: &str) -> Local {
        let mut local = Local { demands: self.demands.clone(), severity: self.severity.clone() };
        for (paths, area) in &self.areas {
            if paths.is_match(path) {
                if let Some(demands) = &area.demands {
                    local.demands.clone_from(demands);
                }
                local.severity.extend(area.severity.iter().cloned());
            }
        }
        local
    }
}

impl Local {
    /// The severity that is set for `rule`, if any.
    #[must_use]
    pub fn severity(&self, rule: &str) -> Option<Severity> {
        let family = rule.split('.').next().unwrap_or_default();
        self.severity
            .iter()
            .rev()
            .find(|(pattern, _)| pattern == rule || pattern.strip_suffix(".*") == Some(family) || pattern == "*")
            .map(|(_, severity)| *severity)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn later_areas_win_and_families_match() {
        let text = "demands = ['none-handled']\nseverity = { 'import.*' = 'note' }\n\
                    [[area]]\npaths = ['tests/**']\ndemands = []\nseverity = { 'import.untyped' = 'off' }\n";
        let settings = Settings::parse(text, false).unwrap().unwrap();
        let areas = Areas::new(&settings).unwrap();
        assert_eq!(areas.local("src/a.py").demands, ["none-handled"]);
        assert_eq!(areas.local("src/a.py").severity("import.untyped"), Some(Severity::Note));
        assert!(areas.local("tests/a.py").demands.is_empty());
        assert_eq!(areas.local("tests/a.py").severity("import.untyped"), Some(Severity::Off));
        assert_eq!(areas.local("tests/a.py").severity("call.argument"), None);
    }

    #[test]
    fn a_folder_stands_for_what_lies_in_it() {
        let set = patterns(&["vendor/".to_owned()]).unwrap();
        assert!(set.is_match("vendor/x/y.py") && !set.is_match("src/vendor.py"));
    }
}
