//! `leitmotiv trace`, with real interpreters: whichever of 3.8 to 3.14 the search path has, and those that `LEITMOTIV_PYTHONS` names besides
//! (paths with `:` in between).

use std::process::{Command, Stdio};
use std::sync::OnceLock;
use std::time::Duration;

use crate::folder::{Folder, Run};

/// The interpreters to test with.
fn interpreters() -> &'static [String] {
    static FOUND: OnceLock<Vec<String>> = OnceLock::new();
    FOUND.get_or_init(|| {
        let named = std::env::var("LEITMOTIV_PYTHONS").unwrap_or_default();
        let mut names: Vec<String> = named.split(':').filter(|name| !name.is_empty()).map(str::to_owned).collect();
        names.push("python3".to_owned());
        names.extend((8..=14).map(|minor| format!("python3.{minor}")));
        let asked = |name: &String| {
            let question = "import sys; print(sys.executable if sys.version_info >= (3, 8) else '')";
            let output = Command::new(name).args(["-c", question]).stderr(Stdio::null()).output().ok()?;
            let path = String::from_utf8(output.stdout).ok()?.trim().to_owned();
            (output.status.success() && !path.is_empty()).then_some(path)
        };
        let mut found: Vec<String> = names.iter().filter_map(asked).collect();
        found.dedup();
        assert!(!found.is_empty(), "there is no Python from 3.8 on to test with");
        found
    })
}

/// Runs a program plainly, and gives what it printed and its status.
fn plainly(folder: &Folder, python: &str, words: &[&str]) -> (String, String, i32) {
    let output = Command::new(python).args(words).current_dir(folder.path("")).output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8_lossy(&bytes).into_owned();
    (text(output.stdout), text(output.stderr), output.status.code().unwrap_or(-1))
}

/// Records a program.
fn recorded(folder: &Folder, python: &str, words: &[&str]) -> Run {
    let mut all = vec!["--interpreter", python, "trace", "run", "--", "python"];
    all.extend(words);
    folder.run(&all)
}

/// What is known of functions, one to a line.
fn shown(folder: &Folder) -> String {
    folder.run(&["-q", "trace", "show"]).ok().out
}

const FLEET: &str = "\
class Vessel:
    def __init__(self, name, seats=None):
        self.name = name
        self.seats = seats


class Tug(Vessel):
    pass


class Liar:
    @property
    def __class__(self):
        raise SystemExit(9)

    def __hash__(self):
        raise SystemExit(8)

    def __eq__(self, other):
        raise SystemExit(7)

    def __repr__(self):
        raise SystemExit(6)

    def __getattribute__(self, name):
        raise SystemExit(5)


class Meta(type):
    def __getattribute__(cls, name):
        raise SystemExit(4)

    def __hash__(cls):
        raise SystemExit(3)


class Odd(metaclass=Meta):
    pass


def load(vessel, *more, mode=\"one\", **rest):
    return [vessel]


def tides(hours):
    total = 0
    for hour in range(hours):
        sent = yield str(hour)
        total += 1
    return total


async def wait(hours):
    return hours + 0.5


def fails(text):
    raise ValueError(text)


def everyone(fleet):
    return {vessel.name: vessel for vessel in fleet}


def board(vessel):
    return vessel


def desk(vessel):
    return board(vessel)


FLEET = [Tug(\"Skua\")]
";

#[test]
fn types_are_recorded_and_the_program_does_not_notice() {
    let go = "\
import asyncio, sys
import fleet

skua = fleet.Vessel('Skua', 12)
fleet.load(skua); fleet.load(None, 1, 2, mode='all', at=1.5)
fleet.load(fleet.Liar(), fleet.Odd, fleet.Odd())
tides = fleet.tides(3); next(tides); tides.send(b'low'); print(list(tides))
print(asyncio.run(fleet.wait(3)))
try:
    fleet.fails({1: ('a', 2)})
except ValueError as error:
    print('caught', error)
fleet.everyone([fleet.Tug('Auk'), skua])
print('sitecustomize' in sys.modules, sys.getrecursionlimit(), [name for name in sys.path if 'leitmotiv' in name])
class Own: pass
fleet.board(Own())
def deep(level):
    return deep(level + 1)
try:
    deep(0)
except RecursionError:
    print('deep')
print('tack', file=sys.stderr)
sys.exit(3)
";
    for python in interpreters() {
        let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
        let plain = plainly(&folder, python, &["go.py"]);
        let run = recorded(&folder, python, &["go.py"]);
        assert_eq!((run.out.as_str(), run.status), (plain.0.as_str(), 3), "{python}: {}", run.err);
        let (said, closing) = run.err.trim_end().rsplit_once('\n').unwrap();
        assert_eq!(said, plain.1.trim_end());
        assert!(closing.starts_with("leitmotiv: saw "), "{closing}");
        let shown = shown(&folder);
        for line in [
            "Vessel.__init__(name: str, seats: int | None) -> None",
            "tides(hours: int) -> yields str",
            "wait(hours: int) -> float",
            "fails(text: dict[int, tuple[str, int]])",
            "everyone(fleet: list[Vessel]) -> dict[str, Vessel]",
            "board(vessel: Own) -> Own",
        ] {
            assert!(shown.contains(line), "{python}: {line} is not in\n{shown}");
        }
        let load = folder.run(&["trace", "show", "load"]).ok().out;
        for line in [
            "vessel   Liar · 1 call, from go.py:6",
            "Vessel · 1 call, from go.py:5",
            "None · 1 call, from go.py:5",
            "**rest   float · 1",
        ] {
            assert!(load.contains(line), "{python}: {line} is not in\n{load}");
        }
        let sent = folder.run(&["trace", "show", "tides"]).ok().out;
        assert!(sent.contains("is sent  bytes · 1"), "{python}: {sent}");
    }
}

#[test]
fn what_the_program_starts_is_recorded_too() {
    let go = "\
import fleet, multiprocessing, os, subprocess, sys, threading

class Threaded: pass
class Forked: pass

if __name__ == '__main__':
    thread = threading.Thread(target=fleet.board, args=(Threaded(),)); thread.start(); thread.join()
    subprocess.check_call([sys.executable, '-c', 'import fleet; fleet.board(b\"child\")'])
    for method, value in [('fork', 1), ('spawn', 1.5), ('forkserver', (1,))]:
        with multiprocessing.get_context(method).Pool(1) as pool:
            print(pool.map(fleet.board, [value]))
    sys.stdout.flush()
    child = os.fork()
    if not child:
        fleet.board(Forked())
        os._exit(0)
    os.waitpid(child, 0)
    fleet.board([1])
    os._exit(7)
";
    for python in interpreters() {
        let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
        let run = recorded(&folder, python, &["go.py"]);
        assert_eq!((run.out.as_str(), run.status), ("[1]\n[1.5]\n[(1,)]\n", 7), "{python}: {}", run.err);
        let board = folder.run(&["trace", "show", "board"]).ok().out;
        for seen in ["Threaded", "bytes", "int", "float", "tuple[int]", "Forked", "list[int]"] {
            assert!(board.contains(&format!(" {seen} · 1")), "{python}: {seen} is not in\n{board}");
        }
    }
}

#[test]
fn profilers_and_debuggers_have_what_they_had() {
    let go = "\
import cProfile, sys
import fleet

names = []
sys.settrace(lambda frame, event, value: names.append(frame.f_code.co_name))
fleet.board(1)
sys.settrace(None)
print(names)
profile = cProfile.Profile()
profile.enable()
fleet.board(2)
profile.disable()
print(sum(1 for entry in profile.getstats() if getattr(entry.code, 'co_name', '') == 'board'))
seen = []
def watch(frame, event, value):
    if event == 'call':
        seen.append(frame.f_code.co_name)
sys.setprofile(watch)
fleet.board(3)
sys.setprofile(None)
print(seen)
";
    for python in interpreters() {
        let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
        let plain = plainly(&folder, python, &["go.py"]);
        let run = recorded(&folder, python, &["go.py"]);
        assert_eq!((run.out, run.status), (plain.0, 0), "{python}: {}", run.err);
        assert!(folder.run(&["trace", "show", "board"]).ok().out.contains(" int · "));
    }
}

#[test]
fn what_is_found_in_the_recorders_place_is_run_as_ever() {
    let folder = Folder::new(&[
        ("fleet.py", FLEET),
        ("own/sitecustomize.py", "import sys\nsys.harbour = 'Old Quay'\n"),
        (
            "go.py",
            "import fleet, sys, sitecustomize\nfleet.board(1)\nprint(sys.harbour, sitecustomize.__file__.endswith('own/sitecustomize.py'))\n",
        ),
    ]);
    let own = folder.path("own").to_string_lossy().into_owned();
    for python in interpreters() {
        let words = ["--interpreter", python, "trace", "run", "--", "python", "go.py"];
        let run = folder.run_with(&[("PYTHONPATH", &own)], &words);
        assert_eq!((run.out.as_str(), run.status), ("Old Quay True\n", 0), "{python}: {}", run.err);
    }
}

#[test]
fn a_killed_program_leaves_what_was_recorded() {
    let go = "\
import fleet, os, signal, sys, threading, time

def load(number):
    return fleet.board((number,) * (number % 5))

def kill(after):
    time.sleep(after)
    os.kill(os.getpid(), signal.SIGKILL)

load(0)
threading.Thread(target=kill, args=(float(sys.argv[1]),), daemon=True).start()
number = 0
while True:
    number += 1
    load(number)
    exec(f'class Tug{number}: pass\\nfleet.board(Tug{number}())')
";
    let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
    let python = interpreters().last().unwrap();
    // Not the same moments each time, but told when one goes wrong.
    let mut moment = u64::from(std::process::id());
    for _ in 0..50 {
        moment = moment.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        let after = format!("{:.5}", (moment >> 40) as f64 / f64::from(1 << 24) * 0.06);
        let run = recorded(&folder, python, &["go.py", &after]);
        assert_eq!(run.status, 128 + 9, "{after}: {}", run.err);
        let shown = folder.run(&["trace", "show", "load"]);
        assert_eq!(shown.status, 0, "{after}: {}", shown.err);
        assert!(shown.out.contains("number   int"), "{after}: {}", shown.out);
    }
}

/// `trace run` of `go.py`, which has printed its first line, `on`, and goes on.
#[cfg(unix)]
fn under_way(folder: &Folder) -> std::process::Child {
    let mut child = Command::new(env!("CARGO_BIN_EXE_leitmotiv"))
        .args(["--interpreter", &interpreters()[0], "trace", "run", "--", "python", "go.py"])
        .current_dir(folder.path(""))
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let mut line = String::new();
    std::io::BufRead::read_line(&mut std::io::BufReader::new(child.stdout.as_mut().unwrap()), &mut line).unwrap();
    assert_eq!(line, "on\n");
    child
}

#[cfg(unix)]
#[test]
fn a_run_that_is_cut_off_itself_is_not_lost() {
    let go = "import fleet, time\nfleet.board(1)\nprint('on', flush=True)\ntime.sleep(60)\n";
    let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
    let mut child = under_way(&folder);
    child.kill().unwrap();
    child.wait().unwrap();
    let board = folder.run(&["trace", "show", "board"]).ok().out;
    assert!(board.contains("vessel   int · 1"), "{board}");
    folder.run(&["trace", "merge"]).ok().says("There is nothing to add");
}

#[cfg(unix)]
#[test]
fn a_signal_is_passed_on_and_what_was_seen_is_kept() {
    let go = "\
import fleet, signal, sys, time
signal.signal(signal.SIGTERM, lambda *_: sys.exit(42))
fleet.board(1)
print('on', flush=True)
time.sleep(60)
";
    let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
    let mut child = under_way(&folder);
    Command::new("kill").args(["-TERM", &child.id().to_string()]).status().unwrap();
    assert_eq!(child.wait().unwrap().code(), Some(42));
    assert!(folder.run(&["trace", "show", "board"]).ok().out.contains("int · 1"));
}

#[cfg(unix)]
#[test]
fn a_full_disk_is_not_noticed() {
    // What may be written in all is less than what there is to record.
    let go = "\
import fleet, resource, signal, sys
signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
fleet.board(1)
resource.setrlimit(resource.RLIMIT_FSIZE, (4096, 4096))
for number in range(2000):
    exec(f'class Tug{number}: pass\\nfleet.board(Tug{number}())')
print('done')
";
    for python in interpreters() {
        let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
        let run = recorded(&folder, python, &["go.py"]);
        assert_eq!((run.out.as_str(), run.status), ("done\n", 0), "{python}: {}", run.err);
        assert!(folder.run(&["trace", "show", "board"]).ok().out.contains(" int · 1"));
    }
}

#[test]
fn the_wrong_caller_is_found() {
    let go = "\
import fleet

def right():
    for _ in range(20):
        fleet.desk(fleet.Vessel('Skua'))

def wrong(name):
    fleet.desk(name)

right()
wrong('Skua')
";
    let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", go)]);
    recorded(&folder, &interpreters()[0], &["go.py"]);
    let next = folder.run(&["trace", "show", "board"]).ok().out;
    let next = next.lines().find_map(|line| line.strip_prefix("Next: leitmotiv ")).unwrap().to_owned();
    assert_eq!(next, "trace callers fleet.board --type str --param vessel");
    let found = folder.run(&next.split(' ').collect::<Vec<&str>>()).ok().out;
    let lines: Vec<&str> = found.lines().map(str::trim).collect();
    let chain: Vec<&str> =
        lines.iter().copied().filter(|line| line.contains(".py:") && line.contains(" in ")).collect();
    assert_eq!(chain, ["go.py:8 in wrong", "fleet.py:70 in desk"], "{found}");
    assert!(lines.contains(&"wrong('Skua')"), "{found}");
    assert!(lines.contains(&"1 call, last today · vessel: str"), "{found}");
    let json = folder.run(&["trace", "callers", "board", "--type", "str", "--format", "json"]).ok().out;
    let json: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!(json["callers"][0]["chain"][0]["line"], 11);
    assert_eq!(json["callers"][0]["passed"][0]["type"], "str");
    // Where the code is mended, what it passed says nothing any more.
    folder.write("go.py", &go.replace("fleet.desk(name)", "fleet.desk(fleet.Vessel(name))"));
    let found = folder.run(&["trace", "callers", "desk", "--type", "str"]).ok().out;
    assert!(found.contains("changed since"), "{found}");
}

#[test]
fn old_texts_are_known_to_be_old() {
    let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", "import fleet\nfleet.desk(1)\nfleet.board('a')\n")]);
    recorded(&folder, &interpreters()[0], &["go.py"]);
    // Annotations, comments and layout are no other text.
    let same =
        FLEET.replace("def desk(vessel):", "# The desk.\ndef desk(\n    vessel: int,\n) -> object:\n    'Boards.'");
    folder.write("fleet.py", &same);
    let shown = shown(&folder);
    assert!(!shown.contains("changed since"), "{shown}");
    folder.write("fleet.py", &FLEET.replace("return board(vessel)", "return board([vessel])"));
    let desk = folder.run(&["trace", "show", "desk"]).ok().out;
    assert!(desk.contains("changed since"), "{desk}");
    let shown = folder.run(&["trace", "show"]).ok().out;
    assert!(shown.contains("1 function has changed since"), "{shown}");
    assert!(!folder.run(&["annotate", "--from", "traces"]).ok().out.contains("def desk(vessel: int)"));
}

#[test]
fn annotations_come_of_what_was_seen() {
    let fleet = "import json\n\n\ndef load(path, limit):\n    return json.loads(path)\n\n\ndef first(rows):\n    return rows[0]\n";
    let go = "import fleet\nfleet.first(fleet.load('[1, 2]', 2.5))\n";
    let folder = Folder::new(&[("fleet.py", fleet), ("go.py", go)]);
    folder.run(&["annotate", "--from", "traces"]).ok().says("There is no evidence for any annotation");
    recorded(&folder, &interpreters()[0], &["go.py"]);
    let diff = folder.run(&["annotate", "--from", "traces", "--at-least", "low"]).ok().out;
    assert!(diff.contains("+def load(path: str, limit: float) -> list[int]:"), "{diff}");
    let why = folder.run(&["annotate", "--why", "--at-least", "low", "fleet.py"]).ok().out;
    assert!(why.contains("go.py:2  1 recorded call passes float"), "{why}");
    assert!(why.contains("1 recorded call returns list[int]"), "{why}");
    let lookup = folder.run(&["lookup", "fleet.load"]).ok().out;
    assert!(lookup.contains("1 recorded call passes"), "{lookup}");
}

#[test]
fn what_contradicts_the_code_is_shown_with_its_place() {
    let fleet =
        "def wait(hours):\n    \"\"\"Waits.\n\n    :param int hours: How long.\n    \"\"\"\n    return hours * 2\n";
    let go = "import fleet\nfleet.wait(3)\nvars(fleet)['wait']('ab')\n";
    let folder = Folder::new(&[("fleet.py", fleet), ("go.py", go)]);
    recorded(&folder, &interpreters()[0], &["go.py"]);
    let why = folder.run(&["annotate", "--why", "--at-least", "low", "fleet.py"]).ok().out;
    assert!(why.contains("fleet.wait(hours: int)"), "{why}");
    assert!(why.contains("go.py:3  but 1 recorded call returns str"), "{why}");
    assert!(why.contains("go.py:3  but 1 recorded call passes str"), "{why}");
}

#[test]
fn results_that_go_with_an_argument_are_offered_as_overloads() {
    let store = "\
def read(path, mode='text'):
    with open(path, {'text': 'r', 'raw': 'rb'}[mode]) as file:
        return file.read()


def same(value):
    return eval(repr(value))
";
    let go = "import store\nstore.read('go.py'); store.read('go.py', 'raw')\nstore.same(1); store.same('a')\n";
    let folder = Folder::new(&[("store.py", store), ("go.py", go)]);
    recorded(&folder, &interpreters()[0], &["go.py"]);
    let shown = folder.run(&["trace", "show", "read", "same"]).ok().out;
    for line in ["What it gives goes with `mode`", "\"raw\" -> bytes", "always of the type that `value` has"] {
        assert!(shown.contains(line), "{line} is not in\n{shown}");
    }
    let offered = folder.run(&["annotate", "--suggest", "overloads"]).ok().out;
    for line in ["mode: Literal[\"raw\"]) -> bytes: ...", "mode: Literal[\"text\"] = ...) -> str: ..."] {
        assert!(offered.contains(line), "{line} is not in\n{offered}");
    }
}

#[test]
fn explain_says_what_was_seen_at_run_time() {
    let fleet = "\
def find(name):
    if name == 'Skua':
        return name
    return None


def label(name):
    return find(name).upper()
";
    let folder = Folder::new(&[("fleet.py", fleet), ("go.py", "import fleet\nfleet.label('Skua')\n")]);
    let before = folder.run(&["explain", "fleet.py:8"]).ok().out;
    assert!(!before.contains("recorded runs"), "{before}");
    recorded(&folder, &interpreters()[0], &["go.py"]);
    let story = folder.run(&["explain", "fleet.py:8"]).ok().out;
    for line in ["Seen in recorded runs", "`name` was str in 1 call", "`find` gave str in 1 call"] {
        assert!(story.contains(line), "{line} is not in\n{story}");
    }
}

#[test]
fn stores_of_other_machines_are_added_once() {
    let there = Folder::new(&[("fleet.py", FLEET), ("go.py", "import fleet\nfleet.board(1.5)\n")]);
    recorded(&there, &interpreters()[0], &["go.py"]);
    let here = Folder::new(&[("fleet.py", FLEET), ("go.py", "import fleet\nfleet.board(1.5)\n")]);
    let store = there.path(".leitmotiv/traces.sqlite").to_string_lossy().into_owned();
    here.run(&["trace", "merge", &store]).ok().says("Added what");
    here.run(&["trace", "merge", &store]).ok().says("nothing is new");
    assert!(here.run(&["trace", "show", "board"]).ok().out.contains("float · 1"));
    recorded(&here, &interpreters()[0], &["go.py"]);
    assert!(here.run(&["trace", "show", "board"]).ok().out.contains("float · 2"));
    here.run(&["trace", "forget", "board"]).ok().says("Forgot 1 function.");
    here.run(&["trace", "show", "board"]).refused("no call of `board` has been recorded");
    here.run(&["trace", "forget", "--older-than", "30"]).ok().says("Forgot 0 kinds of calls.");
    here.run(&["trace", "forget", "--all"]).ok().says("Forgot all");
    here.run(&["trace", "show"]).refused("nothing has been recorded yet");
}

#[test]
fn two_runs_at_once_lose_nothing() {
    let folder =
        Folder::new(&[("fleet.py", FLEET), ("go.py", "import fleet\nfor _ in range(3):\n    fleet.board(1)\n")]);
    std::thread::scope(|scope| {
        for _ in 0..6 {
            scope.spawn(|| {
                recorded(&folder, &interpreters()[0], &["go.py"]).ok();
            });
        }
    });
    let board = folder.run(&["trace", "show", "board"]).ok().out;
    assert!(board.contains("vessel   int · 18"), "{board}");
}

#[test]
fn less_is_looked_at_where_that_is_asked() {
    let folder = Folder::new(&[
        ("fleet.py", FLEET),
        ("go.py", "import fleet\nfor number in range(1000):\n    fleet.board(type(f'Tug{number}', (), {})())\n"),
    ]);
    let python = &interpreters()[0];
    // Each call brings something new; of all of them no more than there is room for is told, of a hundredth a few.
    let told = || folder.run(&["trace", "show", "board"]).ok().out.matches("Tug").count() / 2;
    recorded(&folder, python, &["go.py"]);
    assert!(told() > 300, "{}", told());
    folder.run(&["trace", "forget", "--all"]).ok();
    let words = ["--interpreter", python, "trace", "run", "--sample", "0.01", "--", "python", "go.py"];
    assert_eq!(folder.run(&words).status, 0);
    assert!((1..100).contains(&told()), "{}", told());
}

#[test]
fn generators_that_are_closed_and_coroutines_that_wait_give_what_they_give() {
    let harbour = "\
import asyncio


def numbers(most):
    for number in range(most):
        yield number


def nothing():
    yield None


def delegates(most):
    yield from numbers(most)


async def waits():
    await asyncio.sleep(0)
    return 1


async def several():
    for number in range(2):
        await asyncio.sleep(0)
        yield str(number)
";
    let go = "\
import asyncio
import harbour

started = harbour.numbers(3); next(started); started.close()
for number in harbour.numbers(2):
    break
list(harbour.nothing()); list(harbour.delegates(2))
async def main():
    await harbour.waits()
    return [text async for text in harbour.several()]
asyncio.run(main())
";
    for python in interpreters() {
        let folder = Folder::new(&[("harbour.py", harbour), ("go.py", go)]);
        assert_eq!(recorded(&folder, python, &["go.py"]).status, 0);
        let shown = shown(&folder);
        for line in [
            "numbers(most: int) -> yields int ·",
            "nothing() -> yields None · 1",
            "delegates(most: int) -> yields int · 1",
            "waits() -> int · 1",
            "several() -> yields str · 1",
        ] {
            assert!(shown.contains(line), "{python}: {line} is not in\n{shown}");
        }
    }
}

#[test]
fn bad_input_is_refused_before_anything_runs() {
    let python = interpreters()[0].as_str();
    let files: &[(&str, &str)] = &[("fleet.py", FLEET), ("go.py", "import fleet\nprint('ran')\nfleet.board(1)\n")];
    let folder = Folder::new(files);
    folder.run(&["trace", "run"]).refused("COMMAND");
    folder.run(&["trace", "run", "--", "no-such-harbour"]).refused("there is no command `no-such-harbour`");
    folder.run(&["trace", "run", "--", "./go.py.none"]).refused("there is no command `./go.py.none`");
    for rate in ["0", "2", "x"] {
        folder.run(&["trace", "run", "--sample", rate, "--", "python", "go.py"]).refused("--sample");
    }
    let isolated = recorded(&folder, python, &["-I", "go.py"]);
    isolated.refused("with `-I` an interpreter does not run what it is to start with");
    folder.run(&["trace", "run", "--", "true"]).refused("nothing was recorded: `true` started no CPython from 3.8 on");
    folder.run(&["trace", "show"]).refused("nothing has been recorded yet");
    folder.run(&["trace", "callers", "board"]).refused("nothing has been recorded yet");
    folder.run(&["trace", "forget"]).refused("say what to forget");
    folder.run(&["trace", "merge", "none.sqlite"]).refused("there is no file `none.sqlite`");
    recorded(&folder, python, &["go.py"]);
    folder.run(&["trace", "show", "bord"]).refused("is `board` meant?");
    folder.run(&["trace", "callers", "board", "--param", "ship"]).refused("has no parameter `ship`");
    folder
        .run(&["trace", "callers", "board", "--type", "str"])
        .refused("nobody passed `str` to `fleet.board`; what was seen is int");

    let folder = Folder::new(files);
    std::fs::create_dir_all(folder.path(".leitmotiv/traces.sqlite")).unwrap();
    recorded(&folder, python, &["go.py"]).refused("`.leitmotiv/traces.sqlite` is not a file");
    let folder = Folder::new(files);
    std::fs::write(folder.path(".leitmotiv"), "").unwrap();
    recorded(&folder, python, &["go.py"]).refused(".leitmotiv");
    let folder = Folder::new(files);
    folder.write(
        ".leitmotiv/traces.sqlite",
        "not a store, whatever its name says; and long enough to be looked at as one",
    );
    recorded(&folder, python, &["go.py"]).refused("is no store of recorded runs, or it is damaged");
    folder.run(&["trace", "show"]).refused("`leitmotiv trace forget --all` begins a new one");
    // The rest goes on without it.
    let run = folder.run(&["annotate"]);
    assert_eq!((run.status, run.err.contains("is no store of recorded runs")), (0, true), "{}", run.err);
    folder.run(&["trace", "forget", "--all"]).ok();
    assert_eq!(recorded(&folder, python, &["go.py"]).status, 0);
    // Damaged inside.
    let store = folder.path(".leitmotiv/traces.sqlite");
    let mut bytes = std::fs::read(&store).unwrap();
    let from = 4096.min(bytes.len());
    bytes[from..].iter_mut().for_each(|byte| *byte = 0xa5);
    std::fs::write(&store, bytes).unwrap();
    folder.run(&["trace", "show"]).refused("is no store of recorded runs, or it is damaged");
}

#[cfg(unix)]
#[test]
fn a_project_that_may_not_be_written_is_refused() {
    use std::os::unix::fs::PermissionsExt;
    let folder = Folder::new(&[("fleet.py", FLEET), ("go.py", "print('ran')\n")]);
    let locked = std::fs::Permissions::from_mode(0o555);
    std::fs::set_permissions(folder.path(""), locked).unwrap();
    let is_root = std::fs::write(folder.path("probe"), "").is_ok();
    let run = recorded(&folder, &interpreters()[0], &["go.py"]);
    std::fs::set_permissions(folder.path(""), std::fs::Permissions::from_mode(0o755)).unwrap();
    // Whoever may write everywhere is not kept from it.
    if !is_root {
        run.refused(".leitmotiv");
    }
}

/// Whoever waits for a program waits no longer than it takes.
#[test]
fn the_end_of_the_program_is_ours() {
    let folder = Folder::new(&[("go.py", "import os\nos.kill(os.getpid(), 15)\n")]);
    let began = std::time::Instant::now();
    assert_eq!(recorded(&folder, &interpreters()[0], &["go.py"]).status, 128 + 15);
    assert!(began.elapsed() < Duration::from_secs(30));
}
