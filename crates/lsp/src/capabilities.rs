//! What the server says that it can do.

use lsp_types::*;
use serde_json::{Value, json};

use crate::client::Client;
use crate::features::{commands, tokens};

/// The answer to `initialize`.
#[must_use]
pub fn result(client: &Client) -> Value {
    let progress = WorkDoneProgressOptions::default();
    let workspace_folders =
        WorkspaceFoldersServerCapabilities { supported: Some(true), change_notifications: Some(OneOf::Left(true)) };
    let mut sync = TextDocumentSyncOptions {
        open_close: Some(true),
        change: Some(TextDocumentSyncKind::INCREMENTAL),
        ..TextDocumentSyncOptions::default()
    };
    sync.save = Some(TextDocumentSyncSaveOptions::SaveOptions(SaveOptions { include_text: Some(false) }));
    let actions = CodeActionOptions {
        code_action_kinds: Some(vec![
            CodeActionKind::QUICKFIX,
            CodeActionKind::REFACTOR_REWRITE,
            CodeActionKind::SOURCE,
        ]),
        resolve_provider: Some(false),
        work_done_progress_options: progress,
    };
    let tokens = SemanticTokensOptions {
        legend: tokens::legend(),
        range: Some(true),
        full: Some(SemanticTokensFullOptions::Bool(true)),
        work_done_progress_options: progress,
    };
    let capabilities = ServerCapabilities {
        position_encoding: Some(client.encoding.kind()),
        text_document_sync: Some(TextDocumentSyncCapability::Options(sync)),
        hover_provider: Some(HoverProviderCapability::Simple(true)),
        completion_provider: Some(CompletionOptions {
            trigger_characters: Some([".", "[", "\"", "'", "("].map(str::to_owned).to_vec()),
            resolve_provider: Some(true),
            ..CompletionOptions::default()
        }),
        signature_help_provider: Some(SignatureHelpOptions {
            trigger_characters: Some(vec!["(".to_owned(), ",".to_owned()]),
            retrigger_characters: Some(vec!["=".to_owned()]),
            work_done_progress_options: progress,
        }),
        definition_provider: Some(OneOf::Left(true)),
        type_definition_provider: Some(TypeDefinitionProviderCapability::Simple(true)),
        declaration_provider: Some(DeclarationCapability::Simple(true)),
        implementation_provider: Some(ImplementationProviderCapability::Simple(true)),
        references_provider: Some(OneOf::Left(true)),
        document_highlight_provider: Some(OneOf::Left(true)),
        document_symbol_provider: Some(OneOf::Left(true)),
        workspace_symbol_provider: Some(OneOf::Left(true)),
        code_action_provider: Some(CodeActionProviderCapability::Options(actions)),
        rename_provider: Some(OneOf::Right(RenameOptions {
            prepare_provider: Some(true),
            work_done_progress_options: progress,
        })),
        folding_range_provider: Some(FoldingRangeProviderCapability::Simple(true)),
        selection_range_provider: Some(SelectionRangeProviderCapability::Simple(true)),
        call_hierarchy_provider: Some(CallHierarchyServerCapability::Simple(true)),
        semantic_tokens_provider: Some(SemanticTokensServerCapabilities::SemanticTokensOptions(tokens)),
        inlay_hint_provider: Some(OneOf::Left(true)),
        diagnostic_provider: Some(DiagnosticServerCapabilities::Options(DiagnosticOptions {
            identifier: Some("leitmotiv".to_owned()),
            inter_file_dependencies: true,
            workspace_diagnostics: true,
            work_done_progress_options: progress,
        })),
        execute_command_provider: Some(ExecuteCommandOptions {
            commands: commands::ALL.iter().map(|name| (*name).to_owned()).collect(),
            work_done_progress_options: progress,
        }),
        workspace: Some(WorkspaceServerCapabilities {
            workspace_folders: Some(workspace_folders),
            file_operations: None,
        }),
        ..ServerCapabilities::default()
    };
    json!({
        "capabilities": capabilities,
        "serverInfo": {"name": "leitmotiv", "version": env!("CARGO_PKG_VERSION")},
    })
}

/// Which files the client is to watch.
#[must_use]
pub fn watchers() -> Registration {
    let globs = [
        "**/*.{py,pyi}",
        "**/leitmotiv.toml",
        "**/pyproject.toml",
        "**/leitmotiv.ledger",
        "**/pyvenv.cfg",
        "**/*.pth",
        "**/py.typed",
        "**/.gitignore",
    ];
    let watchers: Vec<FileSystemWatcher> = globs
        .iter()
        .map(|glob| FileSystemWatcher { glob_pattern: GlobPattern::String((*glob).to_owned()), kind: None })
        .collect();
    let options = DidChangeWatchedFilesRegistrationOptions { watchers };
    Registration {
        id: "leitmotiv-files".to_owned(),
        method: "workspace/didChangeWatchedFiles".to_owned(),
        register_options: serde_json::to_value(options).ok(),
    }
}
