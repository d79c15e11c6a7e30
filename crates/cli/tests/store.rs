//! Stores that several machines share: what one has checked another one need not, and whatever a store does, what is printed is the same.

use std::io::{Read, Write};
use std::net::{TcpListener, TcpStream};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};

use crate::folder::Folder;

/// A machine: the project, and a cache of its own.
struct Machine {
    folder: Folder,
    cache: tempfile::TempDir,
}

impl Machine {
    fn new() -> Machine {
        Machine { folder: Folder::demo(), cache: tempfile::tempdir().unwrap() }
    }

    /// What a check prints on both ways, and its status.
    fn check(&self, words: &[&str]) -> (String, String, i32) {
        let cache = self.cache.path().to_string_lossy().into_owned();
        let all = [&["check", "--format", "json", "--cache", &cache], words].concat();
        let run = self.folder.run(&all);
        (run.out, run.err, run.status)
    }

    fn without(&self) -> String {
        self.folder.run(&["check", "--format", "json", "--no-cache"]).out
    }

    fn entries(&self) -> Vec<Vec<u8>> {
        files(self.cache.path())
            .iter()
            .filter(|path| path.extension().is_some())
            .map(|path| std::fs::read(path).unwrap())
            .collect()
    }
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let mut all = Vec::new();
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        match entry.path() {
            path if path.is_dir() => all.extend(files(&path)),
            path => all.push(path),
        }
    }
    all.sort();
    all
}

/// What two machines do that share a store which works.
fn shared(url: &str) {
    let (one, other) = (Machine::new(), Machine::new());
    let right = one.without();
    let words = ["--store", url, "--store-wait", "60"];
    assert_eq!(one.check(&words), (right.clone(), String::new(), 1));
    assert_eq!(other.check(&words), (right, String::new(), 1));
    // What came out is there as the first has put it; with an edit, what it begins with comes too.
    let kept = one.entries();
    assert!(other.entries().iter().all(|entry| kept.contains(entry)));
    other.folder.write("skerry/new.py", "late: int = ''\n");
    assert_eq!(other.check(&words).0, other.without());
    let text = other.folder.read("skerry/store.py");
    other.folder.write("skerry/store.py", &format!("\n{text}"));
    assert_eq!(other.check(&words).0, other.without());
}

#[test]
fn a_folder_is_shared() {
    let place = tempfile::tempdir().unwrap();
    let url = format!("file://{}/kept", place.path().display());
    shared(&url);
    assert!(files(place.path()).len() >= 4);
    // Damaged, it is as good as empty.
    for path in files(place.path()) {
        std::fs::write(path, "LMSTORE1 and then nothing").unwrap();
    }
    let machine = Machine::new();
    assert_eq!(machine.check(&["--store", &url, "--store-read-only"]).0, machine.without());
}

#[test]
fn who_only_reads_writes_nothing() {
    let place = tempfile::tempdir().unwrap();
    let url = format!("file://{}", place.path().display());
    let machine = Machine::new();
    assert_eq!(machine.check(&["--store", &url, "--store-read-only"]).0, machine.without());
    assert_eq!(files(place.path()), Vec::<PathBuf>::new());
}

/// A web server that answers each request with some words, or with nothing at all.
fn server(answer: Option<&'static str>) -> String {
    let server = TcpListener::bind("127.0.0.1:0").unwrap();
    let url = format!("http://{}/kept", server.local_addr().unwrap());
    std::thread::spawn(move || {
        let mut silent: Vec<TcpStream> = Vec::new();
        for mut stream in server.incoming().flatten() {
            match answer {
                None => silent.push(stream),
                Some(answer) => {
                    let _ = stream.read(&mut [0; 4096]);
                    let _ = stream.write_all(answer.as_bytes());
                }
            }
        }
    });
    url
}

#[test]
fn a_store_that_does_not_do_as_it_should_changes_nothing() {
    let machine = Machine::new();
    let right = machine.without();
    let absent = "http://127.0.0.1:9/kept".to_owned();
    let silent = server(None);
    let broken = server(Some("HTTP/1.1 500 no\r\ncontent-length: 0\r\nconnection: close\r\n\r\n"));
    let babbling = server(Some("HTTP/1.1 200 ok\r\ncontent-length: 9\r\nconnection: close\r\n\r\nwhat else"));
    let rude = server(Some("?"));
    // What babbles has at least taken all that was put into it.
    for (url, is_told) in [(absent, true), (silent, true), (broken, true), (babbling, false), (rude, true)] {
        let machine = Machine::new();
        let (out, err, status) = machine.check(&["--store", &url]);
        assert_eq!((out.as_str(), status), (right.as_str(), 1), "{url}");
        assert_eq!(err.starts_with("leitmotiv: the store did not answer in time"), is_told, "{url}: {err}");
    }
}

#[test]
fn what_is_no_store_is_refused() {
    let folder = Folder::demo();
    folder.run(&["check", "--store", "kept"]).refused("is no URL of a store");
    folder.run(&["check", "--store", "gopher://skerry.invalid/kept"]).refused("cannot be used");
    folder.run(&["check", "--store", "file:///tmp/kept", "--store-wait=-3"]).refused("takes a number of seconds");
    folder.run_with(&[("LEITMOTIV_STORE", "kept")], &["check"]).refused("is no URL of a store");
}

/// A server that is ended with the test.
struct Served(Child);

impl Drop for Served {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// With a server from the system's packages, where it is there.
#[test]
fn a_server_that_people_run_is_shared() {
    let Ok(port) = TcpListener::bind("127.0.0.1:0").and_then(|free| free.local_addr()) else { return };
    let place = tempfile::tempdir().unwrap();
    let at = place.path().display();
    std::fs::create_dir(place.path().join("kept")).unwrap();
    let settings = format!(
        "daemon off; master_process off; pid {at}/pid; error_log {at}/errors; events {{}}\n\
         http {{ access_log off; client_max_body_size 0; client_body_temp_path {at}/body; proxy_temp_path {at}/p; \
         fastcgi_temp_path {at}/f; uwsgi_temp_path {at}/u; scgi_temp_path {at}/s;\n\
         server {{ listen {port}; root {at}; location / {{ dav_methods PUT DELETE MKCOL; create_full_put_path on; }} }} }}\n"
    );
    let file = place.path().join("settings");
    std::fs::write(&file, settings).unwrap();
    let named = ["nginx", "/usr/sbin/nginx"].into_iter();
    let mut started = named.filter_map(|name| {
        let mut command = Command::new(name);
        command.arg("-c").arg(&file).stdin(Stdio::null()).stdout(Stdio::null()).stderr(Stdio::null());
        command.spawn().ok()
    });
    // It is not everywhere; folders are, and the servers above.
    let Some(_served) = started.next().map(Served) else { return };
    let is_up = (0..100).any(|_| {
        std::thread::sleep(std::time::Duration::from_millis(50));
        TcpStream::connect(port).is_ok()
    });
    assert!(is_up, "{}", std::fs::read_to_string(place.path().join("errors")).unwrap_or_default());
    shared(&format!("http://{port}/kept"));
    assert!(files(&place.path().join("kept")).len() >= 4);
}
