//! A year on the demo project: branches, merges, moves, new modules, regressions, paid debts. Nothing slips, nothing fails that nobody broke, no
//! promise and no debt is lost, and git asks nobody about the ledger.

use std::collections::BTreeSet;

use crate::folder::{Folder, Run};

/// The project, and the day of the year.
struct Year {
    folder: Folder,
    day: u32,
    /// Files and folders that were renamed so far.
    renamed: Vec<(&'static str, &'static str)>,
}

impl Year {
    #[track_caller]
    fn git(&self, words: &[&str]) -> String {
        let day = format!("2025-{:02}-{:02}", self.day / 28 % 12 + 1, self.day % 28 + 1);
        self.folder.git(words, Some(&day))
    }

    #[track_caller]
    fn edit(&self, path: &str, from: &str, to: &str) {
        let text = self.folder.read(path);
        assert!(text.contains(from), "{path} has no {from:?}");
        self.folder.write(path, &text.replacen(from, to, 1));
    }

    #[track_caller]
    fn ends(&self, status: i32, words: &[&str]) -> Run {
        let run = self.folder.run(words);
        assert_eq!(run.status, status, "{words:?} on day {}\n{}{}", self.day, run.out, run.err);
        run
    }

    /// Commits what is there, which a check lets pass.
    #[track_caller]
    fn commit(&mut self, words: &str) {
        self.day += 9;
        self.ends(0, &["check"]);
        self.git(&["add", "-A"]);
        self.git(&["commit", "-q", "-m", words]);
    }

    /// Something is broken and told in these words; then it is taken back.
    #[track_caller]
    fn slips(&self, path: &str, from: &str, to: &str, told: &str) {
        let whole = self.folder.read(path);
        self.edit(path, from, to);
        let run = self.ends(1, &["check"]);
        assert!(run.out.contains(told), "{told}: {}", run.out);
        self.folder.write(path, &whole);
        self.ends(0, &["check"]);
    }

    /// Tightens, after which the ledger is exact, and commits.
    #[track_caller]
    fn tighten(&mut self, words: &[&str]) {
        self.ends(0, &[&["tighten", "--write"], words].concat());
        self.ends(0, &["check", "--exact"]);
        self.commit("tighten");
    }

    fn branch(&self, name: &str, from: &str) {
        self.git(&["checkout", "-q", "-b", name, from]);
    }

    /// What is promised at a revision: demand and path of each hold.
    fn promised(&self, revision: &str) -> BTreeSet<(String, String)> {
        let text = self.git(&["show", &format!("{revision}:leitmotiv.ledger")]);
        let holds = text.lines().filter_map(|line| line.strip_prefix("hold ")?.split_once(' '));
        holds.map(|(demand, path)| (demand.to_owned(), path.to_owned())).collect()
    }

    /// Merges a branch into main; all that either promised is promised still, renamed files under their new names.
    #[track_caller]
    fn merge(&mut self, branch: &str) {
        self.day += 5;
        self.git(&["checkout", "-q", "main"]);
        let before: BTreeSet<(String, String)> = self.promised("main").union(&self.promised(branch)).cloned().collect();
        self.git(&["merge", "-q", "--no-ff", "--no-edit", branch]);
        self.ends(0, &["check"]);
        self.ends(0, &["tighten", "--write"]);
        self.ends(0, &["check", "--exact"]);
        self.git(&["add", "-A"]);
        self.git(&["commit", "-q", "--allow-empty", "-m", &format!("after {branch}")]);
        let after = self.promised("main");
        for (demand, path) in before.into_iter().filter(|(demand, _)| demand != "as-it-is") {
            let moved = self.renamed.iter().find_map(|(from, to)| {
                let rest = path.strip_prefix(from)?;
                Some(format!("{to}{rest}"))
            });
            let path = moved.unwrap_or(path);
            assert!(after.contains(&(demand.clone(), path.clone())), "{demand} {path} is lost with {branch}");
        }
    }
}

/// Replaces the name of a module or package in all files that have it.
fn rename_in_all(year: &Year, from: &str, to: &str) {
    let all = year.git(&["ls-files", "*.py"]);
    for path in all.lines().filter(|path| !path.starts_with("venv/")) {
        let text = year.folder.read(path);
        if text.contains(from) {
            year.folder.write(path, &text.replace(from, to));
        }
    }
}

#[test]
fn a_year_of_branches_loses_nothing_and_lets_nothing_slip() {
    let mut year = Year { folder: Folder::demo(), day: 0, renamed: Vec::new() };
    year.folder.write("leitmotiv.toml", "sources = ['skerry', 'tests']\ninterpreter = 'venv'\npython = '3.12'\n");
    year.git(&["init", "-q", "-b", "main"]);
    year.git(&["add", "-A"]);
    year.git(&["commit", "-q", "-m", "the project"]);

    // The first day: all that is found is owed, and what is free is held.
    year.ends(1, &["check"]);
    year.tighten(&["--as-it-is"]);
    year.tighten(&["none-handled", "--in", "skerry/desk", "skerry/report.py"]);
    year.slips(
        "skerry/desk/fares.py",
        "return int(price)\n",
        "return int(price).undefined\n",
        "has no attribute `undefined`",
    );
    year.slips(
        "skerry/report.py",
        "    sailing = next(",
        "    ship.describe()
    sailing = next(",
        "may be None",
    );

    // Two branches pay debts side by side, and both tighten.
    year.branch("fares", "main");
    year.edit("skerry/desk/fares.py", "\"fare \" + fare(day, minutes)", "\"fare \" + str(fare(day, minutes))");
    year.commit("fares are text");
    year.tighten(&[]);
    year.edit("skerry/desk/fares.py", "def format_price(pence):", "def format_price(pence: int) -> str:");
    year.commit("prices have types");
    year.tighten(&["full-signatures", "--in", "skerry/desk"]);
    year.branch("crew", "main");
    year.edit("skerry/ops/crew.py", "extra: int = \"0\"", "extra: int = 0");
    year.edit("skerry/ops/crew.py", "sailor.work(\"8\")", "sailor.work(8)");
    year.commit("hours are numbers");
    year.tighten(&["full-signatures", "--in", "skerry/ops"]);
    year.edit(
        "skerry/ops/crew.py",
        "    master = roster.master_of(vessel)\n",
        "    master = roster.master_of(vessel)\n    if master is None:\n        return \"nobody\"\n",
    );
    year.commit("a drill without a master");
    year.tighten(&[]);
    year.merge("fares");
    year.merge("crew");
    // What both have paid stays paid.
    year.slips("skerry/ops/crew.py", "sailor.work(8)", "sailor.work(\"8\")", "does not fit `hours`");
    year.slips("skerry/desk/fares.py", "pence: int) -> str", "pence)", "held to full-signatures");

    // One branch moves a package while the other one works in it.
    year.branch("harbour", "main");
    year.git(&["mv", "skerry/ops", "skerry/harbour"]);
    rename_in_all(&year, "skerry.ops", "skerry.harbour");
    year.commit("the package is called harbour");
    year.tighten(&[]);
    year.branch("weather", "main");
    year.edit(
        "skerry/ops/weather.py",
        "return worst(notices).headline().upper()",
        "notice = worst(notices)\n    return notice.headline().upper() if notice else \"\"",
    );
    year.commit("no notices, no bulletin");
    year.tighten(&["marked-overrides", "--in", "skerry/ops/weather.py"]);
    year.edit("skerry/ops/weather.py", "    def severity(self):\n", "    def severity(self, scale: int = 1) -> int:\n");
    year.commit("severity takes a scale");
    year.tighten(&[]);
    year.renamed.push(("skerry/ops/", "skerry/harbour/"));
    year.merge("harbour");
    year.merge("weather");
    assert!(!year.folder.path("skerry/ops").join("weather.py").exists());
    year.slips(
        "skerry/harbour/weather.py",
        "def headline(self):\n",
        "def headline(self, short):\n",
        "held to full-signatures",
    );

    // A module is renamed, and edited in the same commit; another one is taken away.
    year.branch("summary", "main");
    year.git(&["mv", "skerry/report.py", "skerry/summary.py"]);
    rename_in_all(&year, "registry, report", "registry, summary");
    rename_in_all(&year, "fleet, report", "fleet, summary");
    rename_in_all(&year, "report.render", "summary.render");
    rename_in_all(&year, "report.averages", "summary.averages");
    rename_in_all(&year, "report.headline", "summary.headline");
    year.edit(
        "skerry/summary.py",
        "\"\"\"Reports for the office.\"\"\"",
        "\"\"\"Reports for the office, and for the shareholders.\"\"\"",
    );
    year.commit("reports are summaries");
    year.tighten(&[]);
    year.slips(
        "skerry/summary.py",
        "    sailing = next(",
        "    ship.describe()
    sailing = next(",
        "may be None",
    );
    year.branch("notices", "main");
    year.folder.write(
        "skerry/notices.py",
        "\"\"\"Notices on the pier.\"\"\"\n\n\ndef notice(text: str) -> str:\n    return text.title()\n",
    );
    year.commit("notices");
    year.tighten(&[]);
    year.renamed.push(("skerry/report.py", "skerry/summary.py"));
    year.merge("summary");
    year.merge("notices");
    year.slips("skerry/notices.py", "def notice(text: str)", "def notice(text)", "held to full-signatures");

    // A new module is held to what its package holds whole; so is one that is moved there.
    year.tighten(&["none-handled", "full-signatures", "--in", "skerry/harbour"]);
    year.folder.write("skerry/harbour/pilots.py", "\"\"\"Pilots.\"\"\"\n\n\ndef pilot(name):\n    return name\n");
    let run = year.ends(1, &["check"]);
    assert!(run.out.contains("held to full-signatures"), "{}", run.out);
    year.folder
        .write("skerry/harbour/pilots.py", "\"\"\"Pilots.\"\"\"\n\n\ndef pilot(name: str) -> str:\n    return name\n");
    year.commit("pilots");
    year.git(&["mv", "skerry/notices.py", "skerry/harbour/notices.py"]);
    year.commit("notices are the harbour's");
    year.tighten(&[]);
    assert!(year.promised("main").contains(&("full-signatures".to_owned(), "skerry/harbour/notices.py".to_owned())));

    // Code is formatted anew, functions are put in another order and renamed: nobody owes more by that.
    year.branch("layout", "main");
    let fares = year.folder.read("skerry/desk/fares.py");
    let (rest, group) = fares.split_once("def group_fare").unwrap();
    let (head, tail) = rest.split_once("def fare(").unwrap();
    year.folder.write("skerry/desk/fares.py", &format!("{head}def group_fare{group}\n\ndef fare({tail}"));
    rename_in_all(&year, "vehicle_fare", "fare_of_vehicle");
    year.commit("another order");
    year.tighten(&[]);
    // Meanwhile two others tighten the same package.
    year.branch("one", "main");
    year.tighten(&["known-values", "--in", "skerry/desk"]);
    year.branch("two", "main");
    year.edit("skerry/desk/manifest.py", "SEPERATOR", "SEPARATOR");
    year.commit("a slip of the pen");
    year.tighten(&["known-values", "marked-overrides", "--in", "skerry/desk"]);
    year.merge("layout");
    year.merge("one");
    year.merge("two");
    year.slips("skerry/desk/manifest.py", "file.write(SEPARATOR)", "file.write(SEPERATOR)", "is not defined");
    year.slips(
        "skerry/desk/manifest.py",
        "def export(manifests, path):",
        "def export(manifests, path, mode):",
        "held to full-signatures",
    );

    // A module goes; what it promised goes with it, and says so.
    year.git(&["rm", "-q", "skerry/harbour/pilots.py"]);
    year.day += 9;
    let run = year.ends(0, &["check"]);
    assert!(run.out.contains("is not there any more"), "{}", run.out);
    year.ends(1, &["check", "--exact"]);
    let run = year.ends(0, &["tighten", "--write"]);
    assert!(run.out.contains("`skerry/harbour/pilots.py` were dropped"), "{}", run.out);
    year.ends(0, &["check", "--exact"]);
    year.commit("no pilots");

    // The rest is paid, and nothing is owed.
    year.edit("skerry/vessels.py", "self.capcity", "self.capacity");
    year.edit("skerry/clock.py", "utcnw", "utcnow");
    year.commit("slips of the pen");
    year.tighten(&[]);
    year.slips("skerry/vessels.py", "self.capacity - booked", "self.capcity - booked", "has no attribute `capcity`");
    let commits = year.git(&["rev-list", "--count", "main"]);
    assert!(commits.trim().parse::<usize>().unwrap() >= 40, "{commits}");
}
