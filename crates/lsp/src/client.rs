//! What a client said of itself, and what was agreed upon.

use leitmotiv_project::Surroundings;
use lsp_types::{ClientCapabilities, InitializeParams};
use serde::Deserialize;
use serde_json::Value;

use crate::encoding::Encoding;

/// What the client can do, as far as it changes what is sent.
#[derive(Debug, Clone)]
pub struct Client {
    /// The units of columns.
    pub encoding: Encoding,
    /// It asks for diagnostics of the documents that it shows.
    pub pulls: bool,
    /// It asks again when it is told to.
    pub refreshes_diagnostics: bool,
    /// The same of inlay hints.
    pub refreshes_hints: bool,
    /// The same of semantic tokens.
    pub refreshes_tokens: bool,
    /// It shows places beside a diagnostic.
    pub has_related: bool,
    /// It takes edits of documents by version, and new files.
    pub has_document_changes: bool,
    /// It makes files that edits ask for.
    pub creates_files: bool,
    /// It can be told which files to watch.
    pub registers_watchers: bool,
    /// It can be asked for its settings.
    pub has_configuration: bool,
    /// It shows how far long work is.
    pub shows_progress: bool,
    /// It opens documents when it is asked to.
    pub shows_documents: bool,
    /// It puts the cursor into places of an inserted text.
    pub has_snippets: bool,
    /// It shows Markdown in hovers.
    pub has_markdown: bool,
    /// It shows symbols as a tree.
    pub has_symbol_tree: bool,
    /// It takes code actions that are more than commands.
    pub has_action_literals: bool,
}

impl Client {
    /// Reads the client's capabilities, as they were understood and as they came.
    #[must_use]
    pub fn new(params: &InitializeParams, raw: &Value) -> Client {
        let ClientCapabilities { workspace, text_document, window, general, .. } = params.capabilities.clone();
        let workspace = workspace.unwrap_or_default();
        let documents = text_document.unwrap_or_default();
        let window = window.unwrap_or_default();
        let offered = general.and_then(|general| general.position_encodings);
        let edits = workspace.workspace_edit.unwrap_or_default();
        let hover = documents.hover.and_then(|hover| hover.content_format).unwrap_or_default();
        let completion = documents.completion.and_then(|completion| completion.completion_item).unwrap_or_default();
        Client {
            encoding: Encoding::choose(offered.as_deref()),
            pulls: documents.diagnostic.is_some(),
            refreshes_diagnostics: refreshes(raw, "diagnostics"),
            refreshes_hints: refreshes(raw, "inlayHint"),
            refreshes_tokens: refreshes(raw, "semanticTokens"),
            has_related: documents.publish_diagnostics.and_then(|own| own.related_information).unwrap_or(false),
            has_document_changes: edits.document_changes.unwrap_or(false),
            creates_files: edits
                .resource_operations
                .is_some_and(|kinds| kinds.contains(&lsp_types::ResourceOperationKind::Create)),
            registers_watchers: workspace
                .did_change_watched_files
                .and_then(|own| own.dynamic_registration)
                .unwrap_or(false),
            has_configuration: workspace.configuration.unwrap_or(false),
            shows_progress: window.work_done_progress.unwrap_or(false),
            shows_documents: window.show_document.is_some_and(|own| own.support),
            has_snippets: completion.snippet_support.unwrap_or(false),
            has_markdown: hover.contains(&lsp_types::MarkupKind::Markdown),
            has_symbol_tree: documents
                .document_symbol
                .and_then(|own| own.hierarchical_document_symbol_support)
                .unwrap_or(false),
            has_action_literals: documents.code_action.is_some_and(|own| own.code_action_literal_support.is_some()),
        }
    }
}

/// Whether the client asks again when it is told to; the types that we read by know the one for diagnostics by another name.
fn refreshes(raw: &Value, what: &str) -> bool {
    raw["capabilities"]["workspace"][what]["refreshSupport"].as_bool().unwrap_or(false)
}

/// What users may set, as `initializationOptions` or as the section `leitmotiv` of the client's configuration.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize)]
#[serde(default, rename_all = "kebab-case")]
pub struct Options {
    /// The interpreter whose packages are read. What a project's own settings name is never run.
    pub interpreter: Option<String>,
    /// Which inlay hints are shown.
    pub hints: Hints,
}

/// Which inlay hints are shown.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize)]
#[serde(default)]
pub struct Hints {
    /// Those of parameters.
    pub parameters: bool,
    /// Those of results.
    pub returns: bool,
    /// Those of variables.
    pub variables: bool,
}

impl Default for Hints {
    fn default() -> Hints {
        Hints { parameters: true, returns: true, variables: true }
    }
}

impl Options {
    /// Reads options; the section may stand in an object of its own.
    ///
    /// # Errors
    /// Why they cannot be read, in words.
    pub fn read(value: &Value) -> Result<Options, String> {
        let own = value.get("leitmotiv").unwrap_or(value);
        if own.is_null() {
            return Ok(Options::default());
        }
        serde_json::from_value(own.clone()).map_err(|error| error.to_string())
    }

    /// The surroundings in which projects are opened.
    #[must_use]
    pub fn surroundings(&self, own: &Surroundings) -> Surroundings {
        match &self.interpreter {
            Some(named) => Surroundings { interpreter: Some(named.clone()), by_editor: true, ..own.clone() },
            None => own.clone(),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn options_stand_alone_or_in_their_section() {
        let told = |text: &str| Options::read(&serde_json::from_str(text).unwrap());
        let named = Options { interpreter: Some("venv".to_owned()), ..Options::default() };
        assert_eq!(told(r#"{"interpreter": "venv"}"#), Ok(named.clone()));
        assert_eq!(told(r#"{"leitmotiv": {"interpreter": "venv"}}"#), Ok(named));
        assert_eq!(told("null"), Ok(Options::default()));
        assert_eq!(told(r#"{"hints": {"variables": false}}"#).map(|options| options.hints.variables), Ok(false));
        assert!(told(r#"{"interpreter": 3}"#).is_err());
    }
}
