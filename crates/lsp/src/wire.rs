//! Messages on streams (LSP 3.17, "Base Protocol"), read so that no client can do harm: what is no message is told, and what comes behind it is
//! read all the same.

use std::io::{self, BufRead, Read, Write};

use crossbeam_channel::{Receiver, Sender};
use lsp_server::Message;

/// What comes from the client.
#[derive(Debug)]
pub enum Incoming {
    /// A message.
    Message(Message),
    /// Something that is none, and why.
    Malformed(String),
}

/// No message is longer than that, in bytes: what claims to be is nonsense, and would only fill the memory.
const LONGEST: usize = 512 << 20;

/// No line of a header is longer than that, in bytes.
const LONGEST_LINE: u64 = 8 << 10;

/// Reads messages until the stream ends, or nobody takes them any more.
pub fn read_all(mut stream: impl BufRead, out: &Sender<Incoming>) {
    loop {
        let incoming = match read(&mut stream) {
            Ok(Some(incoming)) => incoming,
            Ok(None) | Err(_) => return,
        };
        if out.send(incoming).is_err() {
            return;
        }
    }
}

/// The next message, or what stands in its place; `None` at the end of the stream.
fn read(stream: &mut impl BufRead) -> io::Result<Option<Incoming>> {
    let mut length = None;
    let mut line = Vec::new();
    let mut odd = None;
    loop {
        line.clear();
        if stream.by_ref().take(LONGEST_LINE).read_until(b'\n', &mut line)? == 0 {
            return Ok(None);
        }
        let text = String::from_utf8_lossy(&line);
        let text = text.trim_end_matches(['\r', '\n']);
        if text.is_empty() {
            break;
        }
        match text.split_once(':') {
            Some((name, value)) if name.eq_ignore_ascii_case("content-length") => {
                length = value.trim().parse::<usize>().ok();
            }
            Some(_) => {}
            None => odd = Some(format!("no header field: {}", text.chars().take(80).collect::<String>())),
        }
    }
    let Some(length) = length.filter(|length| *length <= LONGEST) else {
        let words = odd.unwrap_or_else(|| "a header without a usable Content-Length".to_owned());
        return Ok(Some(Incoming::Malformed(words)));
    };
    let mut body = Vec::new();
    stream.by_ref().take(length as u64).read_to_end(&mut body)?;
    if body.len() < length {
        return Ok(None);
    }
    // A list could be taken for the fields of a message, one after the other.
    let is_object = body.iter().find(|byte| !byte.is_ascii_whitespace()) == Some(&b'{');
    Ok(Some(match serde_json::from_slice(&body) {
        Ok(message) if is_object => Incoming::Message(message),
        Ok(_) => Incoming::Malformed("no JSON object".to_owned()),
        Err(error) => Incoming::Malformed(error.to_string()),
    }))
}

/// Writes messages until there are no more, or nobody reads them.
pub fn write_all(mut stream: impl Write, messages: &Receiver<Outgoing>) {
    for message in messages {
        let written = match &message {
            Outgoing::Message(message) => message.write(&mut stream),
            Outgoing::Raw(text) => {
                write!(stream, "Content-Length: {}\r\n\r\n{text}", text.len()).and_then(|()| stream.flush())
            }
        };
        if written.is_err() {
            return;
        }
    }
}

/// What goes to the client.
#[derive(Debug)]
pub enum Outgoing {
    /// A message.
    Message(Message),
    /// One that answers nothing that has a number, as JSON.
    Raw(String),
}

#[cfg(test)]
mod tests {
    use super::*;

    fn told(bytes: &[u8]) -> Vec<String> {
        let (sender, receiver) = crossbeam_channel::unbounded();
        read_all(bytes, &sender);
        drop(sender);
        receiver
            .iter()
            .map(|incoming| match incoming {
                Incoming::Message(Message::Notification(notification)) => notification.method,
                Incoming::Message(_) => "message".to_owned(),
                Incoming::Malformed(_) => "malformed".to_owned(),
            })
            .collect()
    }

    fn framed(body: &str) -> String {
        format!("Content-Length: {}\r\n\r\n{body}", body.len())
    }

    #[test]
    fn nonsense_is_told_and_what_follows_is_read() {
        let exit = framed(r#"{"jsonrpc":"2.0","method":"exit"}"#);
        let text = format!("{}{exit}tides\r\n\r\n{exit}{}{exit}", framed("{"), framed("[1, 2]"));
        assert_eq!(told(text.as_bytes()), ["malformed", "exit", "malformed", "exit", "malformed", "exit"]);
        let huge = format!("Content-Length: 99999999999999\r\n\r\n{exit}");
        assert_eq!(told(huge.as_bytes()), ["malformed", "exit"]);
        assert_eq!(told(b"Content-Length: 40\r\n\r\n{"), [""; 0]);
        assert_eq!(told(&[0xff; 40]), ["malformed"; 0]);
    }
}
