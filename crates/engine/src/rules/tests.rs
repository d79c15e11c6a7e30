use super::*;

#[test]
fn the_list_is_sorted_and_equal_to_the_folder() {
    let slugs: Vec<String> = ALL.iter().map(|rule| rule.slug.to_owned()).collect();
    let mut sorted = slugs.clone();
    sorted.sort();
    assert_eq!(slugs, sorted);
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/src/rules");
    let mut files: Vec<String> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| entry.unwrap().path().file_stem().unwrap().to_string_lossy().into_owned())
        .filter(|name| !["mod", "tests", "ways", "of", "acts", "consequence"].contains(&name.as_str()))
        .map(|name| name.replacen('_', ".", 1).replace('_', "-"))
        .collect();
    files.sort();
    assert_eq!(files, slugs, "paste what is missing into `ALL`");
}

#[test]
fn patterns_name_rules_and_families() {
    assert!(exists("call.argument") && exists("call.*") && exists("*"));
    assert!(!exists("call.argumnet") && !exists("cal.*") && !exists("call"));
}
