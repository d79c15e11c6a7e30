//! Requests by their methods: which project each is about, and what answers it.

use leitmotiv_engine::base::file::File;
use lsp_server::{ErrorCode, Request, ResponseError};
use lsp_types::request::{self, Request as Method};
use lsp_types::*;
use serde::Serialize;
use serde_json::{Value, json};

use crate::features::{
    actions, calls, commands, completion, hints, hover, navigation, pull, rename, shape, signature, symbols, tokens,
};
use crate::server::Done;
use crate::snapshot::Snapshot;

/// Says more than the answer.
pub(crate) type Tell<'a> = &'a dyn Fn(Done);

type Answer = Box<dyn FnOnce(Vec<Snapshot>, Tell<'_>) -> Result<Value, ResponseError> + Send>;

/// What a request is about.
pub(crate) enum Of {
    /// A document.
    Document(Uri),
    /// All that is open.
    Workspace,
}

/// A request that was understood.
pub(crate) struct Work {
    /// What it is about.
    pub of: Of,
    /// Whether it asks for the diagnostics of the workspace.
    pub is_pull: bool,
    /// What answers it.
    pub answer: Answer,
    /// What is answered where it is given up, as something was changed meanwhile.
    pub given_up: ResponseError,
    /// Whether the answer still holds when something was changed since: that of a command does.
    pub may_age: bool,
}

/// An error as the protocol has it.
pub(crate) fn error(code: ErrorCode, words: impl Into<String>) -> ResponseError {
    ResponseError { code: code as i32, message: words.into(), data: None }
}

/// A feature: what it makes of a file of a project.
type Feature<R> = fn(&Snapshot, File, <R as Method>::Params) -> Result<<R as Method>::Result, ResponseError>;

/// The same of all projects that are open.
type OfAll<R> = fn(&[Snapshot], <R as Method>::Params) -> Result<<R as Method>::Result, ResponseError>;

/// Understands a request.
///
/// # Errors
/// What is answered to one that is not known, or whose parameters cannot be read.
pub(crate) fn read(request: Request) -> Result<Work, ResponseError> {
    let position = |params: &TextDocumentPositionParams| params.text_document.uri.clone();
    match request.method.as_str() {
        request::HoverRequest::METHOD => document::<request::HoverRequest>(
            request,
            move |params| position(&params.text_document_position_params),
            hover::hover,
        ),
        request::Completion::METHOD => document::<request::Completion>(
            request,
            move |params| position(&params.text_document_position),
            completion::completion,
        ),
        request::ResolveCompletionItem::METHOD => of_item(request),
        request::SignatureHelpRequest::METHOD => document::<request::SignatureHelpRequest>(
            request,
            move |params| position(&params.text_document_position_params),
            signature::help,
        ),
        request::GotoDefinition::METHOD => document::<request::GotoDefinition>(
            request,
            move |params| position(&params.text_document_position_params),
            navigation::definition,
        ),
        request::GotoTypeDefinition::METHOD => document::<request::GotoTypeDefinition>(
            request,
            move |params| position(&params.text_document_position_params),
            navigation::type_definition,
        ),
        request::GotoDeclaration::METHOD => document::<request::GotoDeclaration>(
            request,
            move |params| position(&params.text_document_position_params),
            navigation::declaration,
        ),
        request::GotoImplementation::METHOD => document::<request::GotoImplementation>(
            request,
            move |params| position(&params.text_document_position_params),
            navigation::implementation,
        ),
        request::References::METHOD => document::<request::References>(
            request,
            move |params| position(&params.text_document_position),
            navigation::references,
        ),
        request::DocumentHighlightRequest::METHOD => document::<request::DocumentHighlightRequest>(
            request,
            move |params| position(&params.text_document_position_params),
            navigation::highlights,
        ),
        request::DocumentSymbolRequest::METHOD => document::<request::DocumentSymbolRequest>(
            request,
            |params| params.text_document.uri.clone(),
            symbols::of_document,
        ),
        request::CodeActionRequest::METHOD => {
            document::<request::CodeActionRequest>(request, |params| params.text_document.uri.clone(), actions::actions)
        }
        request::PrepareRenameRequest::METHOD => {
            document::<request::PrepareRenameRequest>(request, move |params| position(params), rename::prepare)
        }
        request::Rename::METHOD => {
            document::<request::Rename>(request, move |params| position(&params.text_document_position), rename::rename)
        }
        request::FoldingRangeRequest::METHOD => {
            document::<request::FoldingRangeRequest>(request, |params| params.text_document.uri.clone(), shape::folding)
        }
        request::SelectionRangeRequest::METHOD => document::<request::SelectionRangeRequest>(
            request,
            |params| params.text_document.uri.clone(),
            shape::selection,
        ),
        request::SemanticTokensFullRequest::METHOD => document::<request::SemanticTokensFullRequest>(
            request,
            |params| params.text_document.uri.clone(),
            tokens::full,
        ),
        request::SemanticTokensRangeRequest::METHOD => document::<request::SemanticTokensRangeRequest>(
            request,
            |params| params.text_document.uri.clone(),
            tokens::range,
        ),
        request::InlayHintRequest::METHOD => {
            document::<request::InlayHintRequest>(request, |params| params.text_document.uri.clone(), hints::hints)
        }
        request::CallHierarchyPrepare::METHOD => document::<request::CallHierarchyPrepare>(
            request,
            move |params| position(&params.text_document_position_params),
            calls::prepare,
        ),
        request::CallHierarchyIncomingCalls::METHOD => {
            document::<request::CallHierarchyIncomingCalls>(request, |params| params.item.uri.clone(), calls::incoming)
        }
        request::CallHierarchyOutgoingCalls::METHOD => {
            document::<request::CallHierarchyOutgoingCalls>(request, |params| params.item.uri.clone(), calls::outgoing)
        }
        request::DocumentDiagnosticRequest::METHOD => pulled(request),
        request::WorkspaceDiagnosticRequest::METHOD => {
            let work = workspace::<request::WorkspaceDiagnosticRequest>(request, pull::workspace)?;
            Ok(Work { is_pull: true, given_up: again(), ..work })
        }
        request::WorkspaceSymbolRequest::METHOD => {
            workspace::<request::WorkspaceSymbolRequest>(request, symbols::of_workspace)
        }
        request::ExecuteCommand::METHOD => command(request),
        other => Err(error(ErrorCode::MethodNotFound, format!("`{other}` is not known here"))),
    }
}

fn params<R: Method>(request: Request) -> Result<R::Params, ResponseError> {
    serde_json::from_value(request.params)
        .map_err(|why| error(ErrorCode::InvalidParams, format!("`{}` cannot be read: {why}", request.method)))
}

fn value<T: Serialize>(result: T) -> Result<Value, ResponseError> {
    serde_json::to_value(result).map_err(|why| error(ErrorCode::InternalError, why.to_string()))
}

fn changed() -> ResponseError {
    error(ErrorCode::ContentModified, "something was changed meanwhile")
}

/// What asks the client to ask again.
fn again() -> ResponseError {
    let data = Some(json!({"retriggerRequest": true}));
    ResponseError { data, ..error(ErrorCode::ServerCancelled, "something was changed meanwhile") }
}

/// A request about a document; where that is not known, there is nothing to answer.
fn document<R: Method>(
    request: Request,
    uri: impl Fn(&R::Params) -> Uri,
    feature: Feature<R>,
) -> Result<Work, ResponseError>
where
    R::Params: Send + 'static,
    R::Result: 'static,
{
    let params = params::<R>(request)?;
    let uri = uri(&params);
    let of = uri.clone();
    let answer = move |snapshots: Vec<Snapshot>, _: Tell<'_>| {
        let Some(snapshot) = snapshots.first() else { return Ok(Value::Null) };
        let Some(file) = snapshot.file(&of) else { return Ok(Value::Null) };
        value(feature(snapshot, file, params)?)
    };
    Ok(Work { of: Of::Document(uri), is_pull: false, answer: Box::new(answer), given_up: changed(), may_age: false })
}

fn workspace<R: Method>(request: Request, feature: OfAll<R>) -> Result<Work, ResponseError>
where
    R::Params: Send + 'static,
    R::Result: 'static,
{
    let params = params::<R>(request)?;
    let answer = move |snapshots: Vec<Snapshot>, _: Tell<'_>| value(feature(&snapshots, params)?);
    Ok(Work { of: Of::Workspace, is_pull: false, answer: Box::new(answer), given_up: changed(), may_age: false })
}

/// What more is to be told of an item that was offered; it carries its document with it.
fn of_item(request: Request) -> Result<Work, ResponseError> {
    let item = params::<request::ResolveCompletionItem>(request)?;
    let Some(uri) = completion::document_of(&item) else {
        let answer = move |_: Vec<Snapshot>, _: Tell<'_>| value(item);
        return Ok(Work {
            of: Of::Workspace,
            is_pull: false,
            answer: Box::new(answer),
            given_up: changed(),
            may_age: false,
        });
    };
    let of = uri.clone();
    let answer = move |snapshots: Vec<Snapshot>, _: Tell<'_>| {
        let known = snapshots.first().and_then(|snapshot| Some((snapshot, snapshot.file(&of)?)));
        value(match known {
            Some((snapshot, file)) => completion::resolve(snapshot, file, item),
            None => item,
        })
    };
    Ok(Work { of: Of::Document(uri), is_pull: false, answer: Box::new(answer), given_up: changed(), may_age: false })
}

/// Diagnostics of one document; one that is not known has none.
fn pulled(request: Request) -> Result<Work, ResponseError> {
    let params = params::<request::DocumentDiagnosticRequest>(request)?;
    let uri = params.text_document.uri.clone();
    let of = uri.clone();
    let answer = move |snapshots: Vec<Snapshot>, tell: Tell<'_>| {
        let known = snapshots.first().and_then(|snapshot| Some((snapshot, snapshot.file(&of)?)));
        value(pull::document(known, params.previous_result_id.as_deref(), tell))
    };
    Ok(Work { of: Of::Document(uri), is_pull: false, answer: Box::new(answer), given_up: again(), may_age: false })
}

fn command(request: Request) -> Result<Work, ResponseError> {
    let params = params::<request::ExecuteCommand>(request)?;
    let Some(command) = commands::read(&params) else {
        return Err(error(
            ErrorCode::InvalidParams,
            format!("`{}` is not known here, or lacks its arguments", params.command),
        ));
    };
    let uri = command.uri().clone();
    let answer = move |snapshots: Vec<Snapshot>, tell: Tell<'_>| {
        let Some(snapshot) = snapshots.into_iter().next() else { return Ok(Value::Null) };
        command.run(snapshot, tell)
    };
    Ok(Work { of: Of::Document(uri), is_pull: false, answer: Box::new(answer), given_up: changed(), may_age: true })
}
