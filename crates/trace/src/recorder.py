"""Records the types that pass through a project's functions while its program runs.

It is found as `sitecustomize` on the path, so that each interpreter that the program starts runs it first; what would have been
found in its place is run after it. Beside it lies `settings`: its version, which part of calls to record, and the project's files.
Each process appends to a file of its own, here, a line for each new thing; docs/traces.md tells the lines.

What it must never do: call anything of the program's own (no `repr`, `==`, `hash`, property, method, nor `__class__`), keep one of
its objects or classes alive, or let it notice. Values are told by `type()`; only what is exactly a container of the interpreter
is looked into, and no more than its first and last few items.
"""

import sys


def begin(folder, module):
    import _weakref
    import atexit
    import gc
    import os
    import time
    from _collections import OrderedDict, defaultdict, deque

    here = begin.__code__.co_filename
    getframe = sys._getframe
    monitoring = getattr(sys, "monitoring", None)
    write, close, fstat, getpid, open_file = os.write, os.close, os.fstat, os.getpid, os.open
    abspath, realpath, basename, stat = os.path.abspath, os.path.realpath, os.path.basename, os.stat
    join, cwd = os.path.join, os.getcwd()
    modules = sys.modules
    clock = time.monotonic

    # How deep containers are looked into, how many items of each, how long a tuple is told item by item.
    DEPTH, ITEMS, PLACES = 3, 8, 6
    # How many different calls of a function are told apart with their callers, and how many at all.
    CALLS, MOST = 512, 1024
    # How many calls without anything new go by before fewer are looked at, and how few those become at least.
    QUIET, FEWEST = 24, 256
    # How many calls in a row that bring nothing make a function rest, and what share of the time they may take.
    BURST, SHARE = 1000, 0.1
    # What looking at such a call takes, in seconds, and how much longer a rest may become.
    LOOK, LONGER = 1.2e-6, 16
    # How many yields of one generator, attributes of one object, and names of one module are looked at.
    YIELDS, ATTRIBUTES, GLOBALS = 32, 64, 512
    # How many of a function's own words are told apart, and how long they are at most.
    WORDS, LETTERS = 16, 32
    # How far up the project's own caller is looked for.
    FRAMES = 24

    with open(join(folder, "settings"), encoding="utf-8", errors="surrogateescape") as settings:
        lines = settings.read().split("\n")
    every = max(1, round(1 / float(lines[1])))
    files = set(lines[2:])
    files.discard("")
    last_names = {basename(file) for file in files}

    # What is exactly `type`'s, whatever a metaclass says.
    class_part = type.__dict__
    name_of = class_part["__qualname__"].__get__
    module_of = class_part["__module__"].__get__
    mro_of = class_part["__mro__"].__get__
    namespace_of = class_part["__dict__"].__get__
    module_type = type(sys)
    names_of = module_type.__dict__["__dict__"].__get__
    getset, member = type(class_part["__qualname__"]), type(class_part["__flags__"])
    items_of = dict.items

    # The state of this process; a fork begins with none of it.
    out = deque()  # each line is taken out by one thread alone
    told = {}  # what a definition says: its number
    plain = {}  # id of a class: its number; of no container, and of no metaclass
    meta = {}  # id of a metaclass: a reference that ends with it
    refs = {}  # id of a class: a reference that ends with it
    getters = {}  # id of a class: how to reach what its objects hold
    own = {}  # a code's file: its number; None where it is not the project's
    infos = {}  # id of a code: what is known of the function
    pending = {}  # id of a frame: the call that goes on there
    resting = []  # functions that are not looked at for a while: until when, and what is known of them
    handle = []  # descriptor, device, inode
    state = {"pid": getpid(), "off": False, "number": 0, "chance": 1, "wake": 0.0, "hidden": None}

    # --- writing

    def escaped(text):
        if type(text) is not str:
            return "?"
        if "%" in text or "\t" in text or "\n" in text or "\r" in text:
            text = text.replace("%", "%25").replace("\t", "%09").replace("\n", "%0A").replace("\r", "%0D")
        return text

    def put():
        """Writes what is to be written, to a file that is surely its own."""
        lines = []
        try:
            while True:
                lines.append(out.popleft())
        except IndexError:
            pass
        text = "".join(lines).encode("utf-8", "surrogateescape")
        if state["off"]:
            return
        if getpid() != state["pid"]:
            afresh()
            return
        try:
            if handle:
                now = fstat(handle[0])
                if now.st_dev != handle[1] or now.st_ino != handle[2]:
                    # The program closed it, and may have opened another one of that number.
                    del handle[:]
        except OSError:
            del handle[:]
        try:
            if not handle:
                reach()
            while text:
                text = text[write(handle[0], text) :]
        except OSError:
            # A full disk, a program that gave up its rights: what was written stays.
            state["off"] = True

    def reach():
        path = state.get("path")
        flags = os.O_WRONLY | os.O_APPEND | getattr(os, "O_CLOEXEC", 0)
        if path is None:
            path = state["path"] = join(folder, "%d-%x.calls" % (state["pid"], time.time_ns()))
            flags |= os.O_CREAT | os.O_EXCL
        descriptor = open_file(path, flags, 0o600)
        now = fstat(descriptor)
        handle[:] = descriptor, now.st_dev, now.st_ino

    def number(*parts):
        """The number of what a definition says, which is told when it is new."""
        known = told.get(parts)
        if known is None:
            state["number"] = known = state["number"] + 1
            told[parts] = known
            out.append("%s\t%d\t%s\n" % (parts[0], known, "\t".join(parts[1:])))
        return known

    def begun():
        out.append("H\t1\t%d.%d.%d\t%d\t%d\n" % (sys.version_info[:3] + (state["pid"], int(time.time()))))
        put()

    def afresh():
        """In the child of a fork: nothing of what the parent knew."""
        for _, info in resting:
            listen(info, True)
        try:
            now = fstat(handle[0])
            if now.st_dev == handle[1] and now.st_ino == handle[2]:
                close(handle[0])
        except (OSError, IndexError):
            pass
        for one in (out, handle, told, plain, meta, refs, getters, own, infos, pending, resting):
            one.clear()
        state.clear()
        state.update(pid=getpid(), off=False, number=0, chance=1, wake=0.0, hidden=None)
        known_types()
        begun()

    # --- types

    def known_types():
        number("T", "none")  # 1
        plain[id(type(None))] = 1
        number("T", "bool")  # 2
        plain[id(bool)] = 2
        number("T", "word", "true")  # 3
        number("T", "word", "false")  # 4

    def class_number(cls):
        key = id(cls)
        known = plain.get(key)
        if known is None:
            known = meta.get(key)
        if known is None:
            known = meet_class(cls, key)
        return known

    def meet_class(cls, key):
        try:
            module = module_of(cls)
        except Exception:
            module = "?"
        if module == "__main__" if type(module) is str else False:
            main = modules.get("__main__")
            path = names_of(main).get("__file__") if type(main) is module_type else None
            if type(path) is str:
                number("M", escaped(abspath(path)))
        line = mro_of(cls)
        above = []
        is_meta = False
        for base in line:
            if base is type:
                is_meta = True
            if base is not cls and base is not object:
                above.append(str(class_number(base)))
        known = number("T", "class", escaped(module), escaped(name_of(cls)), ",".join(above))

        def gone(_, key=key):
            for one in (plain, meta, refs, getters):
                one.pop(key, None)

        refs[key] = _weakref.ref(cls, gone)
        if is_meta:
            meta[key] = known
        elif key not in containers:
            plain[key] = known
        return known

    def of(value, depth):
        cls = type(value)
        known = plain.get(id(cls))
        if known is not None:
            return known
        shape = containers.get(id(cls))
        if shape is not None:
            if depth <= 0:
                return number("T", shape)
            return container(value, shape, depth - 1)
        if id(cls) in meta or class_number(cls) and id(cls) in meta:
            # A class itself.
            return number("T", "type", str(class_number(value)))
        return class_number(cls)

    containers = {
        id(list): "list",
        id(tuple): "tuple",
        id(set): "set",
        id(frozenset): "frozenset",
        id(dict): "dict",
        id(deque): "deque",
        id(defaultdict): "defaultdict",
        id(OrderedDict): "OrderedDict",
    }

    def joined(values, depth):
        kinds = {of(value, depth) for value in values}
        return ",".join([str(kind) for kind in sorted(kinds)])

    def container(value, shape, depth):
        length = len(value)
        if shape == "tuple" and length <= PLACES:
            return number("T", "tuple", ",".join([str(of(item, depth)) for item in value]))
        if shape == "list" or shape == "tuple":
            some = value if length <= ITEMS else value[: ITEMS - 2] + value[-2:]
            return number("T", "tuple*" if shape == "tuple" else shape, joined(some, depth))
        some = []
        try:
            for item in items_of(value) if "ict" in shape else value:
                some.append(item)
                if len(some) >= ITEMS:
                    break
        except RuntimeError:
            pass  # another thread changes it
        if "ict" in shape:
            keys = joined([key for key, _ in some], depth)
            return number("T", shape, keys, joined([held for _, held in some], depth))
        return number("T", shape, joined(some, depth))

    # --- functions

    OPTIMIZED, VARARGS, KEYWORDS, GENERATOR, COROUTINE, ASYNC_GENERATOR = 1, 4, 8, 32, 128, 512

    class Info:
        __slots__ = ("code", "number", "names", "words", "sites", "rows", "attributes", "quiet", "period", "left", "is_init")
        __slots__ += ("is_coroutine", "is_generator", "is_async", "raw", "sent", "idle", "since", "longer")

    def own_file(name):
        """The number of a code's file; None where that is not the project's."""
        known = own.get(name, 0)
        if known == 0:
            path = None
            if basename(name) in last_names:
                for way in (abspath(name), abspath(join(cwd, name)), realpath(name)):
                    if way in files:
                        path = way
                        break
            if path is None:
                known = None
            else:
                try:
                    now = stat(path)
                    known = number("P", escaped(path), str(now.st_size), str(now.st_mtime_ns))
                except OSError:
                    known = None
            own[name] = known
        return known

    def meet(code):
        """A function of the project's own; None for any other code."""
        name = code.co_name
        if name == "<module>" and state["hidden"] is not None and own_file(code.co_filename) is not None:
            # From here on the program looks around.
            if modules.get("sitecustomize") is state["hidden"]:
                del modules["sitecustomize"]
            state["hidden"] = None
        if name[0] == "<" or not code.co_flags & OPTIMIZED:
            return None
        file = own_file(code.co_filename)
        if file is None:
            return None
        flags = code.co_flags
        plainly = code.co_argcount + code.co_kwonlyargcount
        count = plainly + bool(flags & VARARGS) + bool(flags & KEYWORDS)
        info = Info()
        info.code = code
        info.names = code.co_varnames[:count]
        told_names = list(info.names)
        if flags & VARARGS:
            told_names[plainly] = "*" + told_names[plainly]
        if flags & KEYWORDS:
            told_names[-1] = "**" + told_names[-1]
        info.number = number("F", str(file), str(code.co_firstlineno), escaped(name), escaped(",".join(told_names)))
        info.words = words(code)
        info.sites = {}
        info.rows = {}
        info.attributes = {}
        info.quiet = 0
        info.period = every
        info.left = 0
        info.is_init = name == "__init__" and count > 0
        info.is_coroutine = bool(flags & COROUTINE)
        info.is_generator = bool(flags & GENERATOR)
        info.is_async = bool(flags & ASYNC_GENERATOR)
        info.raw = info.sent = None
        info.idle, info.since, info.longer = 0, 0.0, 1
        if info.is_generator:
            info.sent = sent_names(code)
        infos[id(code)] = info
        return info

    def words(code):
        """The words that a function itself compares with or passes on, which may decide what it gives."""
        found = {}
        doc = code.co_consts[0] if code.co_consts else None
        for const in code.co_consts:
            for word in const if type(const) in (tuple, frozenset) else (const,):
                if type(word) is str and word is not doc and 0 < len(word) <= LETTERS and len(found) < WORDS:
                    found[word] = None
        return found

    def word(info, text):
        known = info.words[text]
        if known is None:
            known = info.words[text] = number("T", "word", "text", escaped(text))
        return known

    def sent_names(code):
        """Where a generator goes on after a yield: the name that is given what was sent."""
        import opcode

        raw = code.co_code
        names = opcode.opmap
        yields, store = names["YIELD_VALUE"], names["STORE_FAST"]
        skipped = {names.get("RESUME", -1), names.get("CACHE", -1)}
        found = {}
        for offset in range(0, len(raw) - 3, 2):
            if raw[offset] == yields:
                after = offset + 2
                while after < len(raw) - 1 and raw[after] in skipped:
                    after += 2
                if after < len(raw) - 1 and raw[after] == store and raw[after + 1] < len(code.co_varnames):
                    found[offset] = code.co_varnames[raw[after + 1]]
        return found or None

    def site_of(info, frame):
        """The number of the place that a call comes from: the nearest of the project's own, else that of the caller."""
        back = frame.f_back
        if back is None:
            return 0
        key = (id(back.f_code), back.f_lasti)
        known = info.sites.get(key)
        if known is not None and known[0]:
            return known[0]
        one = back
        for _ in range(FRAMES):
            if one is None or own_file(one.f_code.co_filename) is not None:
                break
            one = one.f_back
        is_direct = one is back
        if one is None or own_file(one.f_code.co_filename) is None:
            one = back
        file = own_file(one.f_code.co_filename)
        if file is None:
            file = number("P", escaped(one.f_code.co_filename), "0", "0")
        site = number("C", str(file), str(one.f_lineno or 0), "" if is_direct else "1")
        if known is None and len(info.sites) < CALLS:
            # The code stays, so that its number stays its own. What stands behind other code's calls is looked for each time.
            info.sites[key] = (site if is_direct else 0, back.f_code)
        return site

    def call(info, frame):
        """A call begins: what it is called with."""
        if info.left <= 0:
            info.left = info.period - 1
            if info.left:
                # Never in step with what the program does.
                state["chance"] = chance = state["chance"] * 1103515245 + 12345 & 0x7FFFFFFF
                info.left = (chance >> 8) % (2 * info.period - 1)
        if resting and clock() > state["wake"]:
            wake()
        held = frame.f_locals
        args = []
        for name in info.names:
            try:
                value = held[name]
            except KeyError:
                args.append(0)
                continue
            cls = type(value)
            kind = plain.get(id(cls))
            if kind is None:
                kind = of(value, DEPTH)
            if kind == 2:
                kind = 3 if value else 4
            elif cls is str and value in info.words:
                kind = word(info, value)
            args.append(kind)
        kept = held[info.names[0]] if info.is_init and info.names[0] in held else None
        if clears:
            # What the frame would keep until it ends.
            held.clear()
        pending[id(frame)] = [info, site_of(info, frame), tuple(args), kept, 0, None, info.period, None]

    def row(info, site, args, outcome, kind, weight):
        rows = info.rows
        key = (site, args, outcome, kind)
        count = rows.get(key)
        if count is None:
            if len(rows) >= CALLS:
                key = (0, args, outcome, kind)
                if key not in rows and len(rows) >= MOST:
                    return
                count = rows.get(key)
            if count is None:
                rows[key] = weight
                info.quiet = info.idle = 0
                info.period = every
                info.longer = 1
                tell(info, key, weight)
                put()
                return
        more = count + weight
        rows[key] = more
        if more.bit_length() != count.bit_length():
            # A killed program loses less than half of a count.
            tell(info, key, more)
            put()
        info.quiet += 1
        if info.quiet > QUIET:
            info.quiet = 0
            if info.period < FEWEST:
                info.period *= 2

    def is_known(info, frame):
        """Whether a call that is to be left out comes from where calls have come from."""
        back = frame.f_back
        if back is not None and (id(back.f_code), back.f_lasti) not in info.sites and len(info.sites) < CALLS:
            return False
        info.left -= 1
        info.idle += 1
        if info.idle >= BURST:
            tire(info)
        return True

    def tire(info):
        """Lets a function rest whose calls bring nothing and would take too large a part of the time."""
        info.idle = 0
        now = clock()
        taken, info.since = now - info.since, now
        rest = BURST * LOOK / SHARE * info.longer - taken
        if rest <= 0 or not can_rest:
            return
        info.longer = min(LONGER, info.longer * 2)
        for place, entry in list(pending.items()):
            if entry[0] is info:
                del pending[place]
        listen(info, False)
        resting.append((now + rest, info))
        state["wake"] = min(one[0] for one in resting)

    def wake():
        now = clock()
        due = [info for time, info in resting if time <= now]
        resting[:] = [one for one in resting if one[0] > now]
        state["wake"] = min([one[0] for one in resting], default=0.0)
        for info in due:
            info.since = now
            listen(info, True)

    def listen(info, does):
        wanted = 0
        if does:
            wanted = events.PY_START | events.PY_RETURN
            if info.is_generator or info.is_async:
                wanted |= events.PY_YIELD
        monitoring.set_local_events(tool, info.code, wanted)

    def tell(info, key, count):
        site, args, outcome, kind = key
        some = ",".join([str(arg) for arg in args])
        out.append("R\t%d\t%d\t%s\t%s\t%d\t%d\n" % (info.number, site, some, outcome, kind, count))

    def end(entry, frame, outcome, value):
        """A call ends."""
        info = entry[0]
        if outcome == "r":
            kind = of(value, DEPTH)
            if kind == 2:
                kind = 3 if value else 4
        elif outcome == "x":
            kind = class_number(type(value)) if value is not None else 0
        if entry[5] is not None:
            was_sent(entry, frame)
        row(info, entry[1], entry[2], outcome, kind, entry[6])
        if entry[3] is not None and outcome == "r":
            attributes(info, entry[3])

    def goes_on(entry, frame, offset, value):
        """A generator yields."""
        info = entry[0]
        if info.is_coroutine:
            return
        if entry[5] is not None:
            was_sent(entry, frame)
        if info.sent is not None:
            entry[5] = info.sent.get(offset)
        if entry[4] >= YIELDS:
            return
        entry[4] += 1
        if info.is_async:
            if name_of(type(value)) != "async_generator_wrapped_value":
                return  # it waits
            inside = gc.get_referents(value)
            if len(inside) != 1:
                return
            value = inside[0]
        row(info, entry[1], entry[2], "y", of(value, DEPTH), entry[6])

    def was_sent(entry, frame):
        name, entry[5] = entry[5], None
        value = frame.f_locals.get(name)
        if value is not None:
            row(entry[0], entry[1], entry[2], "s", of(value, DEPTH), entry[6])

    def attributes(info, self):
        """What an object holds at the end of its `__init__`."""
        cls = type(self)
        reach = getters.get(id(cls))
        if reach is None:
            class_number(cls)
            reach = getters[id(cls)] = getters_of(cls)
        holds, slots = reach
        found = []
        if holds is not None:
            held = holds(self)
            if type(held) is dict:
                for pair in items_of(held):
                    found.append(pair)
                    if len(found) >= ATTRIBUTES:
                        break
        for name, slot in slots:
            try:
                found.append((name, slot(self)))
            except AttributeError:
                pass
        number_of_class = class_number(cls)
        is_new = False
        for name, value in found:
            if type(name) is not str:
                continue
            key = (number_of_class, name, of(value, DEPTH))
            count = info.attributes.get(key, 0) + 1
            info.attributes[key] = count
            if count == 1:
                is_new = True
                out.append("A\t%d\t%d\t%s\t%d\t1\n" % (info.number, key[0], escaped(name), key[2]))
        if is_new:
            put()

    def getters_of(cls):
        holds, slots = None, []
        for base in mro_of(cls):
            names = namespace_of(base)
            one = names.get("__dict__")
            if holds is None and type(one) is getset:
                holds = one.__get__
            if base is not object:
                for name, value in names.items():
                    if type(value) is member and type(name) is str and len(slots) < ATTRIBUTES:
                        slots.append((name, value.__get__))
        return holds, slots

    # --- the end

    def finish():
        if state["off"] or getpid() != state["pid"]:
            return
        try:
            stop()
            for info in list(infos.values()):
                for key, count in info.rows.items():
                    if count & (count - 1):
                        tell(info, key, count)
                for (cls, name, kind), count in info.attributes.items():
                    if count > 1:
                        out.append("A\t%d\t%d\t%s\t%d\t%d\n" % (info.number, cls, escaped(name), kind, count))
            for module in list(modules.values()):
                if type(module) is module_type:
                    names = names_of(module)
                    path = names.get("__file__")
                    file = own_file(path) if type(path) is str else None
                    if file is not None:
                        for name, value in list(names.items())[:GLOBALS]:
                            if type(name) is str and name[:2] != "__":
                                out.append("G\t%d\t%s\t%d\n" % (file, escaped(name), of(value, DEPTH)))
            out.append("E\n")
            put()
        except Exception:
            pass
        state["off"] = True

    def is_ours(error):
        """Whether an error came from in here, and not from a signal's handler that ran in between."""
        if isinstance(error, KeyboardInterrupt):
            return False
        if isinstance(error, RecursionError) and sys.version_info < (3, 10):
            # Up to there the interpreter ends the process if somebody takes it and goes deeper.
            return False
        trace = error.__traceback__
        while trace.tb_next is not None:
            trace = trace.tb_next
        return trace.tb_frame.f_code.co_filename == here

    # --- hooks

    clears = can_rest = False
    if monitoring is not None:
        clears = sys.version_info < (3, 13)
        free = [one for one in (4, 3) if monitoring.get_tool(one) is None]
        if not free:
            state["off"] = True
            return
        # One finds the project's functions and hears of no code twice; the other one listens to those. Where there is but one, it does both.
        tool, finder = free[0], free[-1]
        can_rest = tool != finder
        events, DISABLE = monitoring.events, monitoring.DISABLE

        def found(code, offset):
            try:
                info = infos.get(id(code))
                if info is None:
                    info = meet(code)
                    if info is None:
                        return DISABLE
                    listen(info, True)
                    call(info, getframe(1))
                elif not can_rest:
                    frame = getframe(1)
                    if info.left <= 0 or not is_known(info, frame):
                        call(info, frame)
                    return None
                return DISABLE if can_rest else None
            except BaseException as error:
                if not is_ours(error):
                    raise

        def started(code, offset):
            try:
                info = infos.get(id(code))
                if info is None:
                    info = meet(code)
                    if info is None:
                        return
                frame = getframe(1)
                if info.left <= 0 or not is_known(info, frame):
                    call(info, frame)
            except BaseException as error:
                if not is_ours(error):
                    raise

        def returned(code, offset, value):
            try:
                frame = getframe(1)
                entry = pending.pop(id(frame), None)
                if entry is not None and entry[0].code is code:
                    end(entry, frame, "r", value)
            except BaseException as error:
                if not is_ours(error):
                    raise

        def yielded(code, offset, value):
            try:
                frame = getframe(1)
                entry = pending.get(id(frame))
                if entry is not None and entry[0].code is code:
                    goes_on(entry, frame, offset, value)
            except BaseException as error:
                if not is_ours(error):
                    raise

        def unwound(code, offset, value):
            try:
                if id(code) in infos:
                    frame = getframe(1)
                    entry = pending.pop(id(frame), None)
                    if entry is not None and entry[0].code is code and type(value) is not GeneratorExit:
                        end(entry, frame, "x", value)
            except BaseException as error:
                if not is_ours(error):
                    raise

        def looked(phase, about):
            # A program that runs on and on in functions that rest.
            if resting and clock() > state["wake"]:
                wake()

        def stop():
            for one in set(free):
                monitoring.set_events(one, 0)
                monitoring.free_tool_id(one)
            gc.callbacks[:] = [one for one in gc.callbacks if one is not looked]

        for one in free:
            monitoring.use_tool_id(one, "leitmotiv")
        monitoring.register_callback(finder, events.PY_START, found)
        if can_rest:
            monitoring.register_callback(tool, events.PY_START, started)
        monitoring.register_callback(tool, events.PY_RETURN, returned)
        monitoring.register_callback(tool, events.PY_YIELD, yielded)
        monitoring.register_callback(finder, events.PY_UNWIND, unwound)
    else:
        import opcode
        import threading

        names = opcode.opmap
        RETURNS = {names["RETURN_VALUE"]}
        WAITS = {names[name] for name in ("YIELD_VALUE", "YIELD_FROM", "SEND") if name in names}

        DELEGATES, RESUMES = names.get("YIELD_FROM", -1), names.get("RESUME")

        def is_new(info, frame):
            """Whether a frame begins, and does not go on."""
            if not (info.is_generator or info.is_async or info.is_coroutine):
                return True
            at = frame.f_lasti
            if at < 0 or RESUMES is None:
                return at < 0
            raw = info.raw
            if raw is None:
                raw = info.raw = info.code.co_code
            return raw[at] == RESUMES and raw[at + 1] == 0

        def profile(frame, event, value):
            try:
                if event == "call":
                    code = frame.f_code
                    info = infos.get(id(code))
                    if info is None:
                        if own.get(code.co_filename, 0) is None:
                            return
                        info = meet(code)
                        if info is None:
                            return
                    entry = pending.get(id(frame))
                    if entry is not None and entry[0] is info and not is_new(info, frame):
                        if entry[7] is not None:
                            # It went on, so it had yielded None.
                            at, entry[7] = entry[7], None
                            goes_on(entry, frame, at, None)
                    elif info.left <= 0 or not is_known(info, frame):
                        call(info, frame)
                    elif entry is not None:
                        del pending[id(frame)]
                elif event == "return":
                    entry = pending.get(id(frame))
                    if entry is None:
                        return
                    info = entry[0]
                    code = frame.f_code
                    if info.code is not code:
                        del pending[id(frame)]
                        return
                    at = frame.f_lasti
                    if value is None or info.is_generator or info.is_async or info.is_coroutine:
                        raw = info.raw
                        if raw is None:
                            raw = info.raw = code.co_code
                        # Up to 3.10 the instruction before a `YIELD_FROM` is told.
                        if at >= 0 and (raw[at] in WAITS or at + 2 < len(raw) and raw[at + 2] == DELEGATES):
                            if value is None:
                                # It yields None, or it is closed there; that is told when it goes on.
                                entry[7] = at
                            else:
                                goes_on(entry, frame, at, value)
                            return
                        is_return = at >= 0 and raw[at] in RETURNS
                    else:
                        is_return = True
                    del pending[id(frame)]
                    # What is raised is not told here.
                    end(entry, frame, "r" if is_return else "x", value)
            except BaseException as error:
                if not is_ours(error):
                    raise

        def again(phase, about):
            # A profiler that has been here, or a call too deep, took it away.
            if phase == "stop" and not state["off"] and sys.getprofile() is None:
                sys.setprofile(profile)

        def stop():
            gc.callbacks[:] = [one for one in gc.callbacks if one is not again]
            if sys.getprofile() is profile:
                sys.setprofile(None)
            threading.setprofile(None)

    known_types()
    begun()
    if state["off"]:
        return
    state["hidden"] = module
    os.register_at_fork(after_in_child=afresh)
    atexit.register(finish)
    if monitoring is not None:
        gc.callbacks.append(looked)
        monitoring.set_events(finder, events.PY_START | events.PY_UNWIND)
    else:
        gc.callbacks.append(again)
        threading.setprofile(profile)
        sys.setprofile(profile)


def go_on():
    """Whatever would have been found in this file's place."""
    folder = __file__.rpartition("/")[0] if "/" in __file__ else __file__.rpartition("\\")[0]
    sys.path[:] = [one for one in sys.path if one != folder]
    sys.path_importer_cache.pop(folder, None)
    own = sys.modules.pop("sitecustomize", None)
    try:
        if sys.implementation.name == "cpython" and sys.version_info >= (3, 8):
            begin(folder, own)
    except Exception:
        pass
    try:
        import sitecustomize  # noqa: F401
    except ImportError as error:
        if error.name != "sitecustomize":
            raise
    finally:
        sys.modules.setdefault("sitecustomize", own)


go_on()
