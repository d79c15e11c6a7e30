//! A store that several machines share, by its URL: a folder, a server that speaks HTTP (with `PUT`, as WebDAV has it), or buckets that are
//! asked as those of S3 are.
//!
//! It may be slow, absent, full or damaged: what does not come in time is as good as not there, and what comes is held against its check sum.

use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::{Receiver, channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use object_store::path::Path;
use object_store::{ObjectStore, ObjectStoreExt};
use thiserror::Error;
use url::Url;

use crate::cache::{MOST_BYTES, Sum, sum};

/// What every entry begins with.
const MAGIC: &[u8; 8] = b"LMSTORE1";

/// Why a store cannot be used at all.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum StoreError {
    /// What should be its URL is none.
    #[error("`{0}` is no URL of a store: write `file:///folder`, `https://server/path` or `s3://bucket/path`")]
    NoUrl(String),
    /// Nothing is known of such stores, or something is missing to ask it.
    #[error("the store `{0}` cannot be used: {1}")]
    Unusable(String, String),
}

/// A store that several machines share.
pub struct Store {
    store: Arc<dyn ObjectStore>,
    below: Path,
    is_read_only: bool,
    /// How long may be waited for it, all in all.
    left: Mutex<Duration>,
    writing: Mutex<Vec<Receiver<bool>>>,
    failed: AtomicBool,
}

impl Store {
    /// The store at a URL, which is not asked for anything yet. What it takes to be let in is found in `variables`, as `AWS_ACCESS_KEY_ID`.
    ///
    /// # Errors
    /// [`StoreError`] where it can never be asked.
    pub fn at(
        url: &str,
        is_read_only: bool,
        patience: Duration,
        variables: impl Iterator<Item = (String, String)>,
    ) -> Result<Store, StoreError> {
        let parsed = Url::parse(url).ok().filter(|parsed| parsed.has_host() || parsed.scheme() == "file");
        let parsed = parsed.ok_or_else(|| StoreError::NoUrl(url.to_owned()))?;
        let mut options: Vec<(String, String)> = variables
            .map(|(name, value)| (name.to_ascii_lowercase(), value))
            .filter(|(name, _)| name.starts_with("aws_"))
            .collect();
        options.push(("allow_http".to_owned(), "true".to_owned()));
        let (store, below) = object_store::parse_url_opts(&parsed, options)
            .map_err(|error| StoreError::Unusable(url.to_owned(), one_line(&error.to_string())))?;
        Ok(Store {
            store: Arc::from(store),
            below,
            is_read_only,
            left: Mutex::new(patience),
            writing: Mutex::default(),
            failed: AtomicBool::new(false),
        })
    }

    /// What an entry holds; `None` where it is not there, is damaged, or does not come in time.
    #[must_use]
    pub fn get(&self, name: &Sum) -> Option<Vec<u8>> {
        let (store, path) = (self.store.clone(), self.path(name));
        let got = aside(async move {
            match store.get(&path).await {
                // What is too long for an entry is not even fetched.
                Ok(found) if found.meta.size > MOST_BYTES / 4 => Ok(None),
                Ok(found) => found.bytes().await.map(|bytes| Some(opened(&bytes))),
                Err(object_store::Error::NotFound { .. }) => Ok(None),
                Err(error) => Err(error),
            }
            .ok()
        });
        match self.wait(&got) {
            Some(Some(found)) => found.flatten(),
            // It did not come in time, or there is something wrong with the store.
            Some(None) | None => {
                self.fail();
                None
            }
        }
    }

    /// Keeps an entry, beside what is done meanwhile: [`Store::finish`] waits for it.
    pub fn put(&self, name: &Sum, bytes: &[u8]) {
        if self.is_read_only {
            return;
        }
        let (store, path, bytes) = (self.store.clone(), self.path(name), bytes.to_vec());
        let written = aside(async move { store.put(&path, closed(&bytes).into()).await.is_ok() });
        self.writing.lock().unwrap_or_else(PoisonError::into_inner).push(written);
    }

    /// Waits for what is being written, as long as that may take. Gives whether the store did all that was asked of it in time.
    pub fn finish(&self) -> bool {
        for written in std::mem::take(&mut *self.writing.lock().unwrap_or_else(PoisonError::into_inner)) {
            if self.wait(&written) != Some(true) {
                self.fail();
            }
        }
        !self.failed.load(Ordering::Relaxed)
    }

    fn fail(&self) {
        self.failed.store(true, Ordering::Relaxed);
    }

    fn path(&self, name: &Sum) -> Path {
        use std::fmt::Write as _;
        let digits = name.iter().fold(String::new(), |mut digits, byte| {
            let _ = write!(digits, "{byte:02x}");
            digits
        });
        // Few names in one folder.
        self.below.clone().join(&digits[..2]).join(digits.as_str())
    }

    /// What comes, if it comes in the time that is left.
    fn wait<T>(&self, from: &Receiver<T>) -> Option<T> {
        let mut left = self.left.lock().unwrap_or_else(PoisonError::into_inner);
        let began = Instant::now();
        let got = from.recv_timeout(*left);
        *left = left.saturating_sub(began.elapsed());
        got.ok()
    }
}

/// Does something on a thread of its own, which nobody waits for once it takes too long.
fn aside<T: Send + 'static>(work: impl Future<Output = T> + Send + 'static) -> Receiver<T> {
    let (to, from) = channel();
    let run = move || {
        let Ok(runtime) = tokio::runtime::Builder::new_current_thread().enable_all().build() else { return };
        let _ = to.send(runtime.block_on(work));
    };
    // Where no thread can be had, nothing comes.
    let _ = std::thread::Builder::new().spawn(run);
    from
}

/// An entry as it lies in a store: its check sum, and the bytes, compressed.
fn closed(bytes: &[u8]) -> Vec<u8> {
    [MAGIC.as_slice(), &sum(bytes), &lz4_flex::compress_prepend_size(bytes)].concat()
}

/// What is in an entry; `None` where it is damaged.
fn opened(entry: &[u8]) -> Option<Vec<u8>> {
    let (said, held) = entry.strip_prefix(MAGIC)?.split_at_checked(size_of::<Sum>())?;
    let size = u32::from_le_bytes(held.get(..4)?.try_into().ok()?);
    if u64::from(size) > MOST_BYTES / 4 {
        return None;
    }
    let bytes = lz4_flex::decompress_size_prepended(held).ok()?;
    (sum(&bytes) == said).then_some(bytes)
}

fn one_line(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

#[cfg(test)]
mod tests {
    use super::*;

    const PATIENCE: Duration = Duration::from_secs(20);

    fn folder(folder: &std::path::Path, is_read_only: bool) -> Store {
        let url = Url::from_directory_path(folder).unwrap();
        Store::at(url.as_str(), is_read_only, PATIENCE, std::iter::empty()).unwrap()
    }

    #[test]
    fn what_is_put_into_a_folder_is_there_for_others() {
        let place = tempfile::tempdir().unwrap();
        let (one, other) = (folder(place.path(), false), folder(place.path(), true));
        let bytes = b"ferries".repeat(1000);
        assert_eq!(other.get(&[7; 32]), None);
        one.put(&[7; 32], &bytes);
        assert!(one.finish());
        assert_eq!(other.get(&[7; 32]), Some(bytes));
        // Who only reads writes nothing.
        other.put(&[8; 32], b"more");
        assert!(other.finish());
        assert_eq!(one.get(&[8; 32]), None);
        assert!(one.finish(), "that something is not there is no failure");
    }

    #[test]
    fn a_damaged_entry_is_as_good_as_none() {
        let bytes = b"berths and tides".repeat(50);
        let entry = closed(&bytes);
        assert!(entry.len() < bytes.len());
        assert_eq!(opened(&entry).as_ref(), Some(&bytes));
        for at in 0..entry.len() {
            let mut damaged = entry.clone();
            damaged[at] ^= 0x10;
            let got = opened(&damaged);
            assert!(got.is_none_or(|got| got == bytes), "at {at}");
        }
        assert_eq!(opened(&entry[..20]), None);
        assert_eq!(opened(b""), None);
    }

    #[test]
    fn what_is_no_store_is_refused() {
        let told = |url: &str| Store::at(url, false, PATIENCE, std::iter::empty()).err().map(|error| error.to_string());
        for url in ["", "folder", "/folder", "https://", "s3:"] {
            assert!(told(url).is_some_and(|told| told.contains("is no URL of a store")), "{url}");
        }
        assert!(told("gopher://skerry.invalid/kept").is_some_and(|told| told.contains("cannot be used")));
    }

    #[test]
    fn nobody_waits_for_a_store_that_says_nothing() {
        let server = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
        let url = format!("http://{}/kept", server.local_addr().unwrap());
        let store = Store::at(&url, false, Duration::from_millis(50), std::iter::empty()).unwrap();
        assert_eq!(store.get(&[1; 32]), None);
        // Now there is no time left for anything.
        store.put(&[1; 32], b"ferries");
        assert!(!store.finish());
    }
}
