//! The stubs of the standard library against the interpreter that is found: no missing public name, no wrong parameter name,
//! kind or default, apart from the reviewed list.

use leitmotiv_engine::base::database::Database;
use leitmotiv_migrate::stub;
use leitmotiv_migrate::stub::running::{self, describe};
use leitmotiv_migrate::stub::verify::reviewed::Reviewed;
use leitmotiv_migrate::stub::verify::verify;
use leitmotiv_project::{Project, Surroundings};

/// The releases that the reviewed list was made with.
const MEASURED: &[&[u8]] =
    &[&[3, 8, 18], &[3, 9, 18], &[3, 10, 13], &[3, 11, 2], &[3, 11, 7], &[3, 12, 1], &[3, 13, 0]];

#[test]
fn the_stubs_of_the_standard_library_say_what_the_interpreter_has() {
    let folder = tempfile::tempdir().unwrap();
    let path = std::env::split_paths(&std::env::var_os("PATH").unwrap_or_default()).collect();
    let surroundings = Surroundings { path, ..Surroundings::default() };
    let mut project = Project::open(folder.path(), None, &surroundings).unwrap();
    let Some(interpreter) = &project.interpreter else { return };
    // The stubs are compared with the versions that they were written against.
    if !((3, 8)..=(3, 13)).contains(&interpreter.version) {
        return;
    }
    project.python = interpreter.version;
    let db = Database::new(project);
    let stubs = stub::bundled(&db);
    let modules: Vec<String> = stubs.iter().map(|(module, _)| module.clone()).collect();
    let described = describe(db.project(), &modules, running::LIMIT).unwrap();
    let list = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../stdlib/reviewed.txt");
    let reviewed = Reviewed::read(&std::fs::read_to_string(list).unwrap()).unwrap();
    let mut told: Vec<String> = Vec::new();
    let (mut names, mut whole) = (0, true);
    for ((module, file), described) in stubs.iter().zip(&described) {
        // Some builds leave modules out.
        if described.is_absent() {
            continue;
        }
        assert_eq!(described.error, None, "{module}");
        whole &= MEASURED.contains(&described.python.as_slice());
        let verified = verify(&db, *file, described);
        names += verified.names;
        let left = verified.differences.iter().filter(|difference| !reviewed.has(difference));
        told.extend(
            left.map(|difference| format!("{} {}: {}", difference.kind.name(), difference.name, difference.words)),
        );
    }
    assert!(names > 4000, "only {names} names were compared");
    // A release that nobody has measured may have a few names more, or a parameter.
    let most = if whole { 0 } else { names / 200 };
    assert!(told.len() <= most, "{}", told.join("\n"));
}
