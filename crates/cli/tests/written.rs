//! What `annotate --write` writes compiles, imports and is the same program; a second run finds nothing more; and `--undo`
//! gives the same bytes. Each text is one that has broken an annotator of some kind.

use std::process::Command;

use crate::folder::Folder;

/// Files that are imported before and after, `m` first.
struct Case {
    name: &'static str,
    files: &'static [(&'static str, &'static str)],
}

const fn one(name: &'static str, files: &'static [(&'static str, &'static str)]) -> Case {
    Case { name, files }
}

const CASES: &[Case] = &[
    one(
        "a function that is called while the module is imported",
        &[(
            "m.py",
            "def make():\n    def inner(self): return Later()\n    return inner\nclass C: x = make()\nclass Later: pass\n",
        )],
    ),
    one(
        "a star import of what cannot be read",
        &[("m.py", "from _operator import *\nimport json\ndef f(x): return json.loads(x)\n")],
    ),
    one(
        "a star import of what is not there",
        &[(
            "m.py",
            "try:\n    from not_there import *\nexcept ImportError:\n    pass\nimport json\ndef f(x): return json.loads(x)\n",
        )],
    ),
    one("the name that is needed means something else", &[("m.py", "Iterator = 5\ndef f():\n    yield 1\n")]),
    one("it means something else later", &[("m.py", "def f():\n    yield 1\nIterator = 5\n")]),
    one("it is deleted", &[("m.py", "from collections.abc import Iterator\ndel Iterator\ndef f():\n    yield 1\n")]),
    one(
        "it comes by a star import",
        &[("m.py", "from m2 import *\ndef f():\n    yield 1\n"), ("m2.py", "Iterator = 5\n")],
    ),
    one("it is made", &[("m.py", "globals()['Iterator'] = 5\ndef f():\n    yield 1\n")]),
    one("the first import is below", &[("m.py", "def f():\n    yield 1\nimport os\n")]),
    one(
        "a docstring speaks of the future",
        &[("m.py", "\"\"\"\nfrom __future__ import annotations\n\"\"\"\ndef f(): return A()\nclass A: pass\n")],
    ),
    one("a comment with an equals sign", &[("m.py", "def f(a # x = y\n      =1):\n    return 1\n")]),
    one("a byte-order mark", &[("m.py", "\u{feff}def g():\n    yield 1\n")]),
    one(
        "an interpreter line and an encoding",
        &[("m.py", "#!/usr/bin/env python3\n# -*- coding: utf-8 -*-\ndef g():\n    yield 1\n")],
    ),
    one(
        "a string begins on the docstring's line",
        &[("m.py", "\"\"\"doc\"\"\"; X = \"\"\"\nab\n\"\"\"\ndef g(): yield 1\n")],
    ),
    one(
        "a string begins on the line of a future import",
        &[("m.py", "from __future__ import division; X = \"\"\"\nab\n\"\"\"\ndef g(): yield 1\n")],
    ),
    one(
        "a string begins on the line of the last import",
        &[
            ("m.py", "from m2 import mk; X = '''\nab\n'''\ndef f(): return mk()\n"),
            ("m2.py", "class Q: pass\ndef mk(): return Q()\n"),
        ],
    ),
    one("lone carriage returns", &[("m.py", "\"\"\"doc\"\"\"\rdef g():\r    yield 1\r")]),
    one(
        "modules that import each other",
        &[
            ("m.py", "import m2\nclass P: pass\ndef f(): return m2.mk()\n"),
            ("m2.py", "import m\nclass Q: pass\ndef mk(): return Q()\ndef p(): return m.P()\n"),
        ],
    ),
    one(
        "a name of the function around",
        &[("m.py", "def outer():\n    list = 3\n    def t(): return [1]\n    return t\nouter()()\n")],
    ),
    one("Windows line ends", &[("m.py", "\"\"\"doc\"\"\"\r\n\r\ndef g():\r\n    yield 1\r\n")]),
    one(
        "a class of a module that is imported in a function",
        &[("m.py", "def f():\n    from m2 import Q\n    return Q()\n"), ("m2.py", "import os\nclass Q: pass\n")],
    ),
    one("a default in parentheses", &[("m.py", "def f(a=(1), b= (2), c =\\\n  3):\n    return a\n")]),
    one("a backslash behind the docstring", &[("m.py", "\"\"\"doc\"\"\"; \\\nX = 1\ndef g(): yield 1\n")]),
    one(
        "a block for type checkers on one line",
        &[
            (
                "m.py",
                "from typing import TYPE_CHECKING\nif TYPE_CHECKING: import os\nimport m2\ndef f(): return m2.mk()\n",
            ),
            ("m2.py", "import m3\ndef mk(): return m3.Q()\n"),
            ("m3.py", "class Q: pass\n"),
        ],
    ),
    one(
        "a class that only stubs say to be generic",
        &[(
            "m.py",
            "import itertools\nimport queue\nN = itertools.count()\ndef f(): return N\ndef g(): return enumerate([1])\n",
        )],
    ),
    one(
        "a built-in name that the class binds",
        &[(
            "m.py",
            "class C:\n    def int(self): return 1\n    def f(self, a=1): return 2\n    str = None\n    def g(self): return ''\n",
        )],
    ),
];

/// Imports `m` in the folder; what went wrong.
fn import(folder: &Folder) -> Option<String> {
    let output = Command::new("python3")
        .args(["-B", "-c", "import sys; sys.path.insert(0, '.'); import m"])
        .current_dir(folder.path(""))
        .output()
        .unwrap();
    (!output.status.success()).then(|| String::from_utf8_lossy(&output.stderr).into_owned())
}

#[test]
fn what_is_written_imports_and_comes_back() {
    for case in CASES {
        let folder = Folder::new(case.files);
        assert_eq!(import(&folder), None, "{}: before", case.name);
        let run = folder.run(&["annotate", "--write", "--dirty", "--at-least", "low"]);
        assert_eq!(run.status, 0, "{}: {}", case.name, run.err);
        let after: Vec<String> = case.files.iter().map(|(path, _)| folder.read(path)).collect();
        assert_eq!(import(&folder), None, "{}:\n{}", case.name, after.join("\n---\n"));
        for text in &after {
            let lines = text.matches('\n').count();
            let has_both = text.contains("\r\n") && lines != text.matches("\r\n").count();
            assert!(!has_both, "{}: mixed line ends in {text:?}", case.name);
        }
        if run.out.starts_with("Wrote") {
            let again = folder.run(&["annotate", "--at-least", "low"]);
            assert!(again.out.starts_with("There is no evidence"), "{}:\n{}", case.name, again.out);
            assert_eq!(folder.run(&["annotate", "--undo"]).status, 0, "{}", case.name);
            let back: Vec<String> = case.files.iter().map(|(path, _)| folder.read(path)).collect();
            let before: Vec<&str> = case.files.iter().map(|(_, text)| *text).collect();
            assert_eq!(back, before, "{}", case.name);
        }
    }
}

/// The text of `m.py` after all annotations were written.
fn written(files: &[(&str, &str)]) -> String {
    let folder = Folder::new(files);
    let run = folder.run(&["annotate", "--write", "--dirty", "--at-least", "low"]);
    assert_eq!(run.status, 0, "{}", run.err);
    folder.read("m.py")
}

#[test]
fn imports_go_where_people_put_them() {
    let text = written(&[("m.py", "#!/usr/bin/env python3\n# -*- coding: utf-8 -*-\ndef g():\n    yield 1\n")]);
    let head = "#!/usr/bin/env python3\n# -*- coding: utf-8 -*-\nfrom collections.abc import Iterator\n\ndef g()";
    assert!(text.starts_with(head), "{text}");
    let text = written(&[("m.py", "\"\"\"doc\"\"\"\r\n\r\ndef g():\r\n    yield 1\r\n")]);
    assert!(text.starts_with("\"\"\"doc\"\"\"\r\n\r\nfrom collections.abc import Iterator\r\n\r\ndef g()"), "{text:?}");
    let text = written(&[("m.py", "# What this is.\n\n# What g does.\ndef g():\n    yield 1\n")]);
    assert!(text.starts_with("# What this is.\nfrom collections.abc import Iterator\n"), "{text}");
    let text = written(&[("m.py", "def f(a # x = y\n      =1):\n    return 1\n")]);
    assert!(text.starts_with("def f(a: int # x = y\n      =1) -> int:"), "{text}");
}

#[test]
fn what_an_import_would_run_is_only_for_type_checkers() {
    let text = written(&[("m.py", "def f():\n    from m2 import Q\n    return Q()\n"), ("m2.py", "class Q: pass\n")]);
    assert!(text.contains("if TYPE_CHECKING:\n    from m2 import Q\n"), "{text}");
    assert!(text.contains("def f() -> \"Q\":"), "{text}");
    // A package that lists its names has no others.
    let package = "__all__ = [\"f\", \"g\"]\n\n\ndef f():\n    yield 1\n\n\ndef g():\n    return 1\n";
    let folder = Folder::new(&[("ferry/__init__.py", package)]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    assert_eq!(folder.read("ferry/__init__.py"), package.replace("def g():", "def g() -> int:"));
    // The block stands behind what binds the name that it asks for.
    let apart = "from __future__ import print_function\n\nVERSION = 1\nimport sys\n\n\ndef f():\n    from m2 import Q\n    return Q()\n";
    let text = written(&[("m.py", apart), ("m2.py", "class Q: pass\n")]);
    let import = "import sys\nfrom typing import TYPE_CHECKING\n\nif TYPE_CHECKING:\n    from m2 import Q\n";
    assert!(text.contains(import), "{text}");
}
