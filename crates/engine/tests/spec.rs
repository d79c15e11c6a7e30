//! The typing specification and the language, chapter by chapter: `spec/<chapter>/*.py`; in `right` stands right code that was
//! told off once.

use std::path::{Path, PathBuf};

use crate::fixture::run_folder;

fn chapters() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/spec")
}

macro_rules! chapters {
    ($($name:ident),* $(,)?) => {
        $(
            #[test]
            fn $name() {
                run_folder(&chapters().join(stringify!($name)));
            }
        )*

        #[test]
        fn no_chapter_is_forgotten() {
            let mut named = vec![$(stringify!($name).to_owned()),*];
            named.sort();
            let mut folders: Vec<String> = std::fs::read_dir(chapters())
                .unwrap()
                .map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned())
                .collect();
            folders.sort();
            assert_eq!(named, folders);
        }
    };
}

chapters!(annotations, calls, classes, containers, flow, functions, imports, narrowing, right, suppressions);
