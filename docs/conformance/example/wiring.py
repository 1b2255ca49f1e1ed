"""A small runtime for compiled wiring (oquel.wiring/1), with the standard library alone.

It is written for reading, not for speed: a second implementation of docs/wiring.md and docs/rehearsals.md that shares no
code with the others. Run it on one case of the conformance kit:

    python3 wiring.py WIRING_FOLDER STEPS_FILE
"""

import heapq
import json
import math
import re
import sys
from pathlib import Path

AT_ONCE = 1000
DELIVERIES = 1_000_000
TICKS = 2_000_000
AFTER_LAST_STEP = 60_000_000


# --- Values and their text


def micros(seconds):
    return math.floor(seconds * 1e6 + 0.5)


def is_number(value):
    return isinstance(value, (int, float)) and not isinstance(value, bool)


def is_literal(value):
    return not isinstance(value, dict)


def same(a, b):
    """Equal by type and value: 1 and 1.0 agree; 1, "1" and true all differ."""
    if is_number(a) and is_number(b):
        return a == b
    return type(a) is type(b) and a == b


def number_text(value):
    """A number as ECMAScript prints it."""
    if value == int(value) and abs(value) < 1e21:
        return str(int(value))
    text = repr(float(value))
    match = re.fullmatch(r"(-?[\d.]+)e([+-])0*(\d+)", text)
    if not match:
        return text
    digits, sign, exponent = match.groups()
    if sign == "-" and int(exponent) < 7:
        return f"{value:.20f}".rstrip("0")
    return f"{digits.removesuffix('.0')}e{sign}{exponent}"


def canonical(value):
    """JSON with sorted keys and without blanks."""
    if isinstance(value, dict):
        parts = (f"{canonical(k)}:{canonical(v)}" for k, v in sorted(value.items()))
        return "{" + ",".join(parts) + "}"
    if isinstance(value, (list, tuple)):
        return "[" + ",".join(canonical(v) for v in value) + "]"
    if is_number(value):
        return number_text(value)
    return json.dumps(value, ensure_ascii=False)


def holds(asked, value):
    """Whether a value is what is asked; None is one that is not there."""
    if is_literal(asked):
        return value is not None and same(value, asked)
    ((test, wanted),) = asked.items()
    if test == "not":
        return value is None or not same(value, wanted)
    if test == "oneOf":
        return value is not None and any(same(value, one) for one in wanted)
    if not is_number(value):
        return False
    return {
        "under": value < wanted,
        "atMost": value <= wanted,
        "over": value > wanted,
        "atLeast": value >= wanted,
    }[test]


def evaluate(args, carried, reader):
    """Arguments as values; one without a value is left out."""
    out = {}
    for name, arg in (args or {}).items():
        if is_literal(arg):
            value = arg
        elif "sender" in arg:
            value = reader.address
        else:
            value = carried.get(arg["payload"]) if "payload" in arg else reader.get(arg["property"])
            if arg.get("as") == "string" and value is not None and not isinstance(value, str):
                value = canonical(value)
        if value is not None:
            out[name] = value
    return out


# --- Scenes, instances, bindings


def names(items):
    return {item["name"]: i for i, item in enumerate(items)}


class Asset:
    def __init__(self, decl):
        self.decl = decl
        self.events = names(decl["events"])
        self.actions = names(decl["actions"])
        self.properties = names(decl["properties"])


class Scene:
    def __init__(self, order, assets, file):
        self.order, self.file, self.name = order, file, file["scene"]
        self.assets = [assets[a] for a in file["asset"]]
        self.parent, self.names = file["parent"], file["name"]
        self.count = len(self.parent)
        self.template = [n.startswith("~") for n in self.names]
        self.spawned = []
        for i in range(self.count):
            up = self.parent[i]
            self.spawned.append(self.template[i] or (up >= 0 and self.spawned[up]))
        self.end = [i + 1 for i in range(self.count)]
        for i in reversed(range(1, self.count)):
            self.end[self.parent[i]] = max(self.end[self.parent[i]], self.end[i])
        self.children = {(self.parent[i], self.names[i]): i for i in range(1, self.count)}
        self.asleep = set(file["asleep"])
        self.values = {i: values for i, values in file["values"]}
        self.spawner = dict(map(tuple, file["spawner"]))
        self.keys = {row: key for row, key in file["keys"]}
        columns = ("owner", "binding", "sender", "event", "receiver", "action")
        self.rows = list(zip(*(file["bindings"][c] for c in columns)))
        self.placed = {}
        self.copies = {}
        self.born = {}
        self.loaded = False

    def container(self, i):
        return -1 if self.template[i] else self.parent[i]

    def template_over(self, i):
        while not self.template[i]:
            i = self.parent[i]
        return i

    def address(self, i):
        parts = []
        while i > 0:
            parts.append(self.names[i])
            i = self.parent[i]
        return f"{self.name}:{'/'.join(reversed(parts)) or '.'}"

    def find(self, path):
        """The instance under a path, copy numbers left out; -1 for none."""
        at = 0
        for name in [] if path == "." else path.split("/"):
            at = self.children.get((at, name.split("#")[0] if name.startswith("~") else name), -1)
            if at < 0:
                return -1
        return at

    def instance(self, at):
        if at not in self.placed:
            self.placed[at] = Instance(self, at, None)
        return self.placed[at]

    def initial(self, at, name):
        asset = self.assets[at]
        if name not in asset.properties:
            return None
        values = self.values.get(at, {})
        return values.get(name, asset.decl["properties"][asset.properties[name]]["default"])


class Copy:
    def __init__(self, scene, template, number, born, overrides, peers):
        self.scene, self.template, self.number, self.born = scene, template, number, born
        self.overrides, self.peers, self.inside = overrides, peers, {}

    def instance(self, at):
        if at not in self.inside:
            self.inside[at] = Instance(self.scene, at, self)
        return self.inside[at]

    @property
    def root(self):
        return self.instance(self.template)


def under(address, path):
    return address[:-1] + path if address.endswith(":.") else f"{address}/{path}"


class Instance:
    def __init__(self, scene, at, copy):
        self.scene, self.at, self.copy, self.asset = scene, at, copy, scene.assets[at]
        self.gone, self.started, self.asleep = False, -1, at in scene.asleep
        self.values, self.bindings = {}, {}
        self.raised = [0] * len(self.asset.events)
        self.performed = [0] * len(self.asset.actions)

    @property
    def address(self):
        if not self.copy:
            return self.scene.address(self.at)
        parts, at, template = [], self.at, self.copy.template
        while at != template:
            parts.append(self.scene.names[at])
            at = self.scene.parent[at]
        parts.append(f"{self.scene.names[template]}#{self.copy.number}")
        return under(self.scene.address(self.scene.parent[template]), "/".join(reversed(parts)))

    def beside(self, at):
        return self.copy.instance(at) if self.copy and self.scene.spawned[at] else self.scene.instance(at)

    @property
    def is_asleep(self):
        if self.asleep:
            return True
        at = self.scene.container(self.at)
        while at >= 0:
            around = (self.copy.inside if self.copy else self.scene.placed).get(at)
            if around.asleep if around else at in self.scene.asleep:
                return True
            at = self.scene.container(at)
        return False

    def initial(self, name):
        if self.copy and self.at == self.copy.template:
            if name not in self.asset.properties:
                return None
            default = self.asset.decl["properties"][self.asset.properties[name]]["default"]
            return self.copy.overrides.get(name, default)
        return self.scene.initial(self.at, name)

    def get(self, name):
        return self.values[name] if name in self.values else self.initial(name)

    @property
    def peers(self):
        """Numbers of its authority and its operator."""
        table = self.scene.file["peers"]
        mine = [table["authority"][self.at], table["operator"][self.at]]
        if self.copy:
            is_root = self.at == self.copy.template
            around = self.copy.peers if is_root else self.copy.instance(self.scene.parent[self.at]).peers
            bits = next((b for i, b in table["named"] if i == self.at), 0)
            mine = [mine[k] if bits & (1 << k) else around[k] for k in (0, 1)]
        return mine

    def contents(self):
        scene = self.scene
        for i in range(self.at, scene.end[self.at]):
            if scene.spawned[i] == scene.spawned[self.at]:
                yield self.beside(i)

    def bound(self, row):
        if row not in self.bindings:
            self.bindings[row] = Bound(self, row)
        return self.bindings[row]


def stays_inside(path):
    return ":" not in path and "~" not in path


class Bound:
    """One expanded binding, in one copy of its owner."""

    def __init__(self, owner, row):
        self.owner, self.row = owner, row
        _, number, self.sender, self.event, self.receiver, self.action = owner.scene.rows[row]
        self.decl = owner.asset.decl["bindings"][number]
        self.source, self.to = self.decl["from"], self.decl["to"]
        self.served, self.released = 0, set()
        in_copy = owner.copy is not None
        self.from_inside = in_copy and "at" in self.source and stays_inside(self.source["at"])
        self.to_inside = in_copy and "at" in self.to and stays_inside(self.to["at"])

    @property
    def since(self):
        if self.decl.get("bind") == "start":
            return self.owner.started
        return self.owner.copy.born if self.owner.copy else 0

    def towards(self, sender):
        if self.since < 0 or (self.owner.gone and self.decl.get("release") != "never"):
            return "not"
        return "released" if sender in self.released else "holds"

    @property
    def through(self):
        return {"owner": self.owner.address, "binding": self.decl["id"]}


# --- The world


class World:
    def __init__(self, project, files, write, until):
        self.project, self.out, self.until = project, write, until
        assets = [Asset(a) for a in project["assets"]]
        self.assets = {a.decl["id"]: a for a in assets}
        order = {s["scene"]: i for i, s in enumerate(project["scenes"])}
        self.all = sorted((Scene(order[f["scene"]], assets, f) for f in files), key=lambda s: s.order)
        self.channels = {c["name"] for c in project["channels"]}
        self.enums = {e["name"]: e["values"] for e in project["enums"]}
        self.peers = project["peers"]
        self.peer_names = project["peers"] + project["strangers"]
        self.now = self.records = self.deliveries = self.clock = self.ticks = self.queued = 0
        self.paused = self.runaway = False
        self.current, self.later, self.timers, self.waiting = [], [], [], {}
        self.causes, self.performers, self.at_once = {}, {}, {}

    @property
    def scenes(self):
        return [s for s in self.all if s.loaded]

    def scene(self, name):
        return next((s for s in self.all if s.name == name), None)

    def write(self, cause, step=None, **body):
        self.records += 1
        self.causes[self.records] = cause
        record = {**body, "n": self.records, "t": self.now, "cause": cause}
        if step is not None:
            record["step"] = step
        self.out(record)
        return self.records

    # Time

    def push(self, delay, item):
        if delay == 0:
            self.current.append(item)
        else:
            self.queued += 1
            heapq.heappush(self.later, (self.now + delay, self.queued, item))

    def next_due(self):
        while self.later and self.later[0][2].get("dropped"):
            heapq.heappop(self.later)
        return self.later[0][0] if self.later else math.inf

    def add_timers(self, instance):
        for event, decl in enumerate(instance.asset.decl["events"]):
            if decl["cause"] == "timer":
                self.tick_later({"instance": instance, "event": event, "from": self.now, "tick": 1})

    def tick_later(self, timer):
        every = timer["instance"].asset.decl["events"][timer["event"]]["every"]
        due = timer["from"] + timer["tick"] * every
        if due <= self.until:
            self.queued += 1
            heapq.heappush(self.timers, (due, self.queued, timer))

    def open(self, time):
        if time != self.now:
            self.at_once = {}
        self.now = time
        if not self.current:
            while self.later and self.later[0][0] == time:
                self.current.append(heapq.heappop(self.later)[2])

    def settle(self):
        due = []
        while self.timers and self.timers[0][0] == self.now:
            due.append(heapq.heappop(self.timers)[2])
        self.ticks += len(due)
        if self.ticks > TICKS:
            return self.end_total(0)
        for timer in sorted(due, key=lambda t: (*place_of(t["instance"]), t["event"])):
            instance = timer["instance"]
            if instance.gone:
                continue
            if not instance.is_asleep:
                self.take_raise(raise_of(instance, timer["event"], {}, 0))
            timer["tick"] += 1
            self.tick_later(timer)
        i = 0
        while i < len(self.current) and not self.runaway:
            self.take(self.current[i])
            i += 1
        self.current = []

    def end_total(self, cause):
        self.runaway = True
        self.write(cause, kind="runaway", why="total", cycle=[])

    def take(self, item):
        if item["kind"] == "delivery":
            self.take_delivery(item)
        elif item["kind"] == "publication":
            self.take_publication(item)
        elif not item.get("dropped"):
            if item.get("restart"):
                del self.waiting[(item["instance"], item["restart"])]
            self.take_raise(item)

    # Starting, sleeping, spawning, destroying

    def load(self, scenes):
        for scene in scenes:
            scene.loaded = True
        starts = []
        for scene in self.scenes:
            for i in range(scene.count):
                if scene.spawned[i]:
                    continue
                instance = scene.instance(i)
                self.add_timers(instance)
                if not instance.is_asleep:
                    starts += self.start(instance, 0)
        for start in starts:
            self.take_raise(start)

    def start(self, instance, cause):
        decl = instance.asset.decl
        events = [i for i, e in enumerate(decl["events"]) if e["cause"] == "start"]
        if not events and all(b.get("bind") != "start" for b in decl["bindings"]):
            return []
        self.clock += 1
        instance.started = self.clock
        raises = []
        for event in events:
            self.clock += 1
            raises.append(raise_of(instance, event, {}, cause, start_queued=self.clock))
        return raises

    def start_awake(self, instance, cause):
        for inside in instance.contents():
            if inside.started < 0 and not inside.gone and not inside.is_asleep:
                self.current += self.start(inside, cause)

    def set_asleep(self, instance, asleep, cause):
        if instance.asleep == asleep:
            return
        instance.asleep = asleep
        self.write(cause, kind="sleep" if asleep else "wake", at=instance.address)
        if not asleep:
            self.start_awake(instance, cause)

    def spawn(self, by, asset, overrides, cause):
        scene = by.scene
        template = scene.children.get((scene.spawner.get(by.at, by.at), f"~{asset}"), -1)
        if template < 0:
            return
        born = scene.born.setdefault(template, [])
        self.clock += 1
        peers = by.peers if self.peers else [-1, -1]
        copy = Copy(scene, template, len(born) + 1, self.clock, overrides, peers)
        born.append(copy)
        scene.copies.setdefault(template, []).append(copy)
        self.write(cause, kind="born", at=copy.root.address, asset=asset)
        for i in range(template, scene.end[template]):
            self.add_timers(copy.instance(i))
        self.start_awake(copy.root, cause)

    def destroy(self, instance, cause):
        if instance.gone:
            return
        self.write(cause, kind="gone", at=instance.address)
        going = [i for i in instance.contents() if not i.gone]
        for inside in going:
            for event, decl in enumerate(inside.asset.decl["events"]):
                if decl["cause"] == "destroyed":
                    stood = [(b, b.towards(inside)) for b in self.bound_to(inside, event)]
                    self.current.append(raise_of(inside, event, {}, cause, stood=stood))
        for inside in going:
            for row, (owner, *_) in enumerate(inside.scene.rows):
                if owner == inside.at:
                    self.let_go(inside.bound(row))
        for inside in going:
            inside.gone = True
        copy = instance.copy
        if copy and instance is copy.root:
            clings = any(
                b.get("release") == "never"
                for i in range(copy.template, copy.scene.end[copy.template])
                for b in copy.scene.assets[i].decl["bindings"]
            )
            if not clings:
                copy.scene.copies[copy.template].remove(copy)

    def let_go(self, bound):
        if bound.decl.get("release") != "all":
            return
        if "channel" in bound.source:
            senders = [None]
        else:
            end = self.end(bound.owner.scene, bound.sender)
            senders = self.all_at(*end, bound.owner if bound.from_inside else None) if end else []
        for sender in senders:
            if bound.towards(sender) == "not":
                continue
            if sender is None:
                beside = self.hearers_of(bound.source["channel"])
            else:
                beside = self.bound_to(sender, bound.event)
            for other in beside:
                if other is not bound and other.towards(sender) == "holds":
                    other.released.add(sender)

    # Who is bound to what

    def gather(self, is_wanted, sender):
        found = []
        for scene in self.scenes:
            rows = [r for r in range(len(scene.rows)) if is_wanted(scene, scene.rows[r])]
            i = 0
            while i < len(rows):
                owner = scene.rows[rows[i]][0]
                if not scene.spawned[owner]:
                    found.append(scene.instance(owner).bound(rows[i]))
                    i += 1
                    continue
                template, end = scene.template_over(owner), i
                while end < len(rows) and scene.rows[rows[end]][0] < scene.end[template]:
                    end += 1
                for copy in scene.copies.get(template, []):
                    for row in rows[i:end]:
                        bound = copy.instance(scene.rows[row][0]).bound(row)
                        if not bound.from_inside or (sender and sender.copy is copy):
                            found.append(bound)
                i = end
        return found

    def bound_to(self, instance, event):
        address = instance.scene.address(instance.at)

        def is_wanted(scene, row):
            _, _, sender, on, _, _ = row
            if on != event:
                return False
            if scene is instance.scene and sender >= 0:
                return sender == instance.at
            return sender <= -2 and scene.file["others"][-2 - sender] == address

        return self.gather(is_wanted, instance)

    def hearers_of(self, channel):
        def is_wanted(scene, row):
            source = scene.assets[row[0]].decl["bindings"][row[1]]["from"]
            return source.get("channel") == channel

        return self.gather(is_wanted, None)

    # Whom a binding reaches

    def end(self, scene, number):
        if number >= 0:
            return (scene, number) if scene.loaded else None
        if number == -1:
            return None
        name, path = scene.file["others"][-2 - number].split(":", 1)
        other = self.scene(name)
        return (other, other.find(path)) if other and other.loaded else None

    def all_at(self, scene, at, beside):
        if not scene.spawned[at]:
            return [scene.instance(at)]
        if beside:
            return [beside.beside(at)]
        return [copy.instance(at) for copy in scene.copies.get(scene.template_over(at), [])]

    def sole_at(self, bound):
        end = self.end(bound.owner.scene, bound.receiver)
        if not end:
            return None
        scene, at = end
        if not scene.spawned[at]:
            return scene.instance(at)
        return bound.owner.beside(at) if bound.to_inside else None

    def read_key(self, key, reader):
        """(whether it can be read, the key or None)"""
        if key is None or is_literal(key):
            return True, key
        value = reader.initial(key["property"])
        return value is not None, value

    def receivers(self, bound, reader):
        """Instances, or None where the target does not resolve."""
        to, owner = bound.to, bound.owner
        if "at" in to:
            end = self.end(owner.scene, bound.receiver) if bound.action >= 0 else None
            if not end:
                return None
            found = self.all_at(*end, owner if bound.to_inside else None)
            return [i for i in found if not i.gone] if end[0].spawned[end[1]] and not bound.to_inside else found
        if "channel" in to or bound.action < 0:
            return None
        match = to.get("match")
        if match in (None, "all"):
            fits = lambda value: True
            name = None
        else:
            name = match["property"]
            is_there, wanted = self.read_key(match["equals"], reader)
            if name not in self.assets[to["every"]].properties or not is_there or wanted is None:
                return None
            fits = lambda value: value is not None and same(value, wanted)
        return self.select(bound, name, fits)

    def select(self, bound, name, fits):
        to, owner, found = bound.to, bound.owner, []
        everywhere, spawned, first = to.get("within") == "project", to.get("spawned") is True, to.get("pick") == "first"

        def take(instance):
            if instance.gone:
                return False
            found.append(instance)
            return first

        def bases(scene):
            for at in range(scene.count):
                inside = everywhere or owner.at < at < scene.end[owner.at]
                if inside and scene.assets[at].decl["id"] == to["every"]:
                    yield at

        scenes = self.scenes if everywhere else [owner.scene]
        if not spawned or owner.copy:
            leave = everywhere or owner.copy is None
            for scene in scenes:
                for at in bases(scene):
                    if (leave and scene.spawned[at]) or (name and not fits(scene.initial(at, name))):
                        continue
                    if take(owner.beside(at) if scene is owner.scene else scene.instance(at)):
                        return found
            if not spawned or not everywhere:
                return found
            found.clear()
        for scene in scenes:
            rest = list(bases(scene))
            while rest:
                at = rest[0]
                if not scene.spawned[at]:
                    group, rest = [scene.instance(at)], rest[1:]
                else:
                    template = scene.template_over(at)
                    inside = [i for i in rest if i < scene.end[template]]
                    group = [c.instance(i) for c in scene.copies.get(template, []) for i in inside]
                    rest = rest[len(inside):]
                for instance in group:
                    if (not name or fits(instance.initial(name))) and take(instance):
                        return found
        return found

    def hearers(self, bound, key):
        """(whether any hears, receivers or None)"""
        asked = bound.source.get("key")
        if asked is None or is_literal(asked):
            hears = asked is None or (key is not None and same(asked, key))
            return hears, self.receivers(bound, bound.owner) if hears else None
        if key is None:
            return False, None
        found = self.receivers(bound, bound.owner)
        listens = lambda value: value is not None and same(value, key)
        if found is None:
            sole = self.sole_at(bound)
            value = sole.initial(asked["property"]) if sole else bound.owner.scene.keys.get(bound.row)
            return listens(value), None
        found = [i for i in found if listens(i.initial(asked["property"]))]
        return bool(found), found

    # Raises, publications, deliveries

    def take_raise(self, item):
        instance, event, special = item["instance"], item["event"], item
        decl = instance.asset.decl["events"][event]
        peers = instance.peers if self.peers else None
        by = special.get("by")
        if by is None:
            by = peers[0] if peers else -1
        reason = self.refusal(item, decl, peers, by)
        if reason:
            self.write(item["cause"], special.get("step"), kind="refused", at=instance.address, event=decl["name"], reason=reason)
            return
        instance.raised[event] += 1
        named = {"by": self.peer_names[by]} if peers and by >= 0 else {}
        n = self.write(
            item["cause"], special.get("step"), kind="raise", at=instance.address, event=decl["name"], payload=item["payload"], **named
        )
        audience = self.audience(decl, by, peers) if peers else None
        bound = special.get("stood") or [(b, None) for b in self.bound_to(instance, event)]
        if "stood" in special:
            bound = special["stood"]
        for b, hold in bound:
            hold = hold or b.towards(instance)
            if hold != "not" and self.lets(b, hold, special.get("start_queued", -1), n, instance, item["payload"]):
                self.deliver(b, instance, None, item["payload"], n, audience)

    def refusal(self, item, decl, peers, by):
        instance = item["instance"]
        if instance.gone and "stood" not in item:
            return "gone"
        if instance.is_asleep:
            return "asleep"
        if "limit" in decl and instance.raised[item["event"]] >= decl["limit"]:
            return "limit"
        if "activators" in decl:
            who = self.assets.get(item.get("activator"))
            tags = ["#" + t for t in who.decl.get("tags", [])] if who else []
            if not who or not set(decl["activators"]) & {who.decl["id"], *tags}:
                return "filtered"
        if peers and (decl.get("send") == "nobody" or not admits(decl.get("send", "everyone"), by, peers)):
            return "barred"
        return "paused" if self.paused and not decl.get("raisedInPause") else None

    def audience(self, decl, by, peers):
        to = decl.get("to", "everyone")
        return [by] if to == "raiser" else [p for p in range(len(self.peers)) if admits(to, p, peers)]

    def lets(self, bound, hold, start_queued, cause, reader, carried):
        conditions = bound.decl.get("if", [])
        asks = all(
            holds(c["is"], carried.get(c["payload"]) if "payload" in c else reader.get(c["property"])) for c in conditions
        )
        reason = None
        if hold == "released":
            reason = "released"
        elif start_queued >= 0 and bound.since > start_queued:
            reason = "not-bound"
        elif not asks:
            reason = "condition"
        elif "limit" in bound.decl and bound.served >= bound.decl["limit"]:
            reason = "limit"
        if reason:
            self.write(cause, kind="stopped", **bound.through, reason=reason)
            return False
        bound.served += 1
        return True

    def deliver(self, bound, reader, hearers, carried, cause, audience):
        """`hearers` is a pair with the receivers of a binding that heard a channel."""
        to, delay = bound.to, bound.decl.get("delay", 0)
        args = evaluate(bound.decl.get("args"), carried, reader)
        head = {"cause": cause, "bound": bound, "audience": audience}
        if "channel" in to:
            is_there, key = self.read_key(to.get("key"), reader)
            known = to["channel"] in self.channels and is_there
            self.push(delay, {**head, "kind": "publication", "channel": to["channel"], "known": known, "key": key, "payload": args})
            return
        found = hearers[1] if hearers else self.receivers(bound, reader)
        if found is None:
            sole = self.sole_at(bound) if "at" in to and bound.action < 0 else None
            self.push(delay, {**head, "kind": "delivery", "instance": sole, "action": -1, "args": args})
            return
        if not found:
            self.write(cause, kind="stopped", **bound.through, reason="empty")
        for instance in found:
            self.push(delay, {**head, "kind": "delivery", "instance": instance, "action": bound.action, "args": args})

    def take_publication(self, p):
        through = p["bound"].through if p["bound"] else {}
        if not p["known"]:
            self.write(p["cause"], p.get("step"), kind="lost", channel=p["channel"], **through, reason="dangling")
            return
        keyed = {} if p["key"] is None else {"key": p["key"]}
        n = self.write(p["cause"], p.get("step"), kind="publication", channel=p["channel"], **keyed, payload=p["payload"], **through)
        for bound in self.hearers_of(p["channel"]):
            hold = bound.towards(None)
            if hold == "not":
                continue
            hears, found = self.hearers(bound, p["key"])
            if hears and self.lets(bound, hold, -1, n, bound.owner, p["payload"]):
                self.deliver(bound, bound.owner, (True, found), p["payload"], n, p["audience"])

    def take_delivery(self, d):
        instance, action, bound, cause = d["instance"], d["action"], d["bound"], d["cause"]
        node = (instance.scene.name, instance.at, action) if instance and action >= 0 else None
        if node and self.at_once.get(node, 0) >= AT_ONCE:
            return self.end_loop("loop", node, cause)
        if self.deliveries >= DELIVERIES:
            return self.end_loop("total", node, cause)
        self.deliveries += 1
        reason = self.loss(d)
        if reason:
            self.write(cause, kind="lost", **bound.through, at=self.where(d), action=bound.to.get("action", ""), reason=reason)
            return
        decl = instance.asset.decl["actions"][action]
        instance.performed[action] += 1
        times = instance.performed[action]
        n = self.write(
            cause, kind="performed", **bound.through, at=instance.address, action=decl["name"], args=d["args"], times=times
        )
        self.at_once[node] = self.at_once.get(node, 0) + 1
        self.performers[n] = (node, instance)
        for place, effect in enumerate(decl.get("effects", [])):
            lost = self.perform(instance, decl, effect, place, d["args"], times, n)
            if lost:
                self.write(n, kind="lost", at=instance.address, effect=effect_name(effect), reason=lost)

    def end_loop(self, why, node, cause):
        self.runaway = True
        back, n = [], cause
        while n > 0:
            if n in self.performers:
                performed, instance = self.performers[n]
                action = instance.asset.decl["actions"][performed[2]]["name"]
                back.append({"action": action, "at": instance.address})
                if performed == node:
                    break
            n = self.causes[n]
        self.write(cause, kind="runaway", why=why, cycle=back[::-1] if n > 0 else [])

    def where(self, d):
        bound, owner = d["bound"], d["bound"].owner
        if d["instance"]:
            return d["instance"].address
        if "every" in bound.to:
            return f"every {bound.to['every']}"
        if bound.receiver >= 0:
            return owner.scene.address(bound.receiver)
        if bound.receiver <= -2:
            return owner.scene.file["others"][-2 - bound.receiver]
        path = bound.to["at"]
        if ":" in path:
            return path
        return owner.address if path == "." else under(owner.address, path)

    def loss(self, d):
        instance, bound = d["instance"], d["bound"]
        path = bound.to.get("at", "")
        scene = self.scene(path.split(":")[0]) if ":" in path else None
        if scene and not scene.loaded:
            return "unloaded"
        if not instance:
            return "dangling"
        decl = instance.asset.decl
        action = decl["actions"][d["action"]] if d["action"] >= 0 else {}
        if instance.gone:
            return "gone"
        if not action.get("whileAsleep") and instance.is_asleep:
            return "asleep"
        if self.paused and not decl.get("runsInPause"):
            return "paused"
        audience = d["audience"]
        if audience is not None:
            is_held = instance.peers[0] in audience if decl.get("onAuthority") else bool(audience)
            if not is_held:
                return "nobody"
        return "dangling" if d["action"] < 0 else None

    # Effects

    def perform(self, instance, action, effect, place, args, times, cause):
        """The reason why the effect is lost, or None."""
        declared = {p["name"] for p in action.get("params", [])}
        when = effect.get("when")
        if when:
            if "property" in when:
                value = instance.get(when["property"])
                if value is None:
                    return "dangling"
            elif when["param"] not in declared:
                return "dangling"
            else:
                value = args.get(when["param"])
            if not holds(when["is"], value):
                return None
        if times % effect.get("everyNth", 1) != 0:
            return None
        if "set" in effect or "toggle" in effect or "add" in effect:
            return self.change(instance, effect, declared, args, cause)
        if "raise" in effect:
            event = instance.asset.events.get(effect["raise"])
            if event is None:
                return "dangling"
            payload = evaluate(effect.get("payload"), args, instance)
            item = raise_of(instance, event, payload, cause)
            if effect.get("restart"):
                item["restart"] = f"{action['name']}/{place}"
                before = self.waiting.get((instance, item["restart"]))
                if before:
                    before["dropped"] = True
                self.waiting[(instance, item["restart"])] = item
            self.push(effect.get("delay", 0), item)
        elif "spawn" in effect:
            asset = self.assets.get(effect["spawn"])
            if not asset or asset.decl["kind"] == "scene":
                return "dangling"
            if not instance.gone:
                self.spawn(instance, effect["spawn"], effect.get("properties", {}), cause)
        elif "destroy" in effect:
            self.destroy(instance, cause)
        else:
            self.set_asleep(instance, "sleep" in effect, cause)
        return None

    def change(self, instance, effect, declared, args, cause):
        name = effect.get("set") or effect.get("toggle") or effect.get("add")
        number = instance.asset.properties.get(name)
        if number is None:
            return "dangling"
        kind = instance.asset.decl["properties"][number]["type"]
        before = instance.get(name)
        if "toggle" in effect:
            if kind != "bool" or not isinstance(before, bool):
                return "misfit"
            after = not before
        else:
            operand = effect["to"] if "set" in effect else effect["by"]
            if not is_literal(operand):
                if operand["param"] not in declared:
                    return "dangling"
                operand = args.get(operand["param"])
            if operand is None or not self.is_of_type(operand, kind):
                return "misfit"
            if "add" in effect and not (is_number(before) and is_number(operand)):
                return "misfit"
            after = operand if "set" in effect else before + operand
        if same(before, after):
            return None
        instance.values[name] = after
        self.write(cause, kind="change", at=instance.address, property=name, **{"from": before, "to": after})
        for event, decl in enumerate(instance.asset.decl["events"]):
            if decl["cause"] == "change" and decl["property"] == number:
                carries = any(f["name"] == name for f in decl.get("payload", []))
                self.push(0, raise_of(instance, event, {name: after} if carries else {}, cause))
        return None

    def is_of_type(self, value, kind):
        if kind.startswith("enum:"):
            values = self.enums.get(kind[5:])
            return isinstance(value, str) and (values is None or value in values)
        if kind in ("string", "instance") or kind.startswith("key:"):
            return isinstance(value, str)
        if kind == "bool":
            return isinstance(value, bool)
        if kind == "vec2":
            return isinstance(value, list)
        return is_number(value) and (kind == "float" or value == int(value))


def raise_of(instance, event, payload, cause, **special):
    return {"kind": "raise", "instance": instance, "event": event, "payload": payload, "cause": cause, **special}


def place_of(instance):
    """Expansion order: copies of one template in order of birth, each followed by all that it contains."""
    copy = instance.copy
    return (instance.scene.order, copy.template if copy else instance.at, copy.number if copy else 0, instance.at)


def admits(roles, peer, of):
    if roles == "everyone":
        return True
    has = {"authority": of[0] == peer, "operator": of[1] == peer, "others": peer not in of}
    if "only" in roles:
        return any(has[r] for r in roles["only"])
    return not any(has[r] for r in roles["except"])


def effect_name(effect):
    for verb in ("raise", "set", "toggle", "add", "spawn"):
        if verb in effect:
            return f"{verb}:{effect[verb]}"
    return next(verb for verb in ("wake", "sleep", "destroy") if verb in effect)


# --- Rehearsals


class Rehearsal:
    def __init__(self, project, files, rehearsal, out):
        self.script, self.out = rehearsal, out
        self.steps = sorted(enumerate(rehearsal["steps"]), key=lambda s: micros(s[1]["at"]))
        self.last = max((micros(s["at"]) for _, s in self.steps), default=0)
        self.counts = {"held": 0, "failed": 0, "steps": 0, "cut": 0, "troubles": 0}
        self.world = World(project, files, self.record, self.last)

    def record(self, record):
        if record["kind"] in ("lost", "refused"):
            self.counts["troubles"] += 1
        self.out(record)

    def run(self):
        world, project, name = self.world, self.world.project, self.script["name"]
        wanted = self.script.get("loadSet")
        sets = [s for s in project["loadSets"] if s["name"] == wanted]
        if wanted is not None and not sets:
            return self.out({"kind": "verdict", "name": name, "error": "load-set", "pass": False})
        part = [
            s for s in world.all if wanted is None or s.name in sets[0]["scenes"] or s.assets[0].decl.get("persistent")
        ]
        self.out({"kind": "rehearsal", "name": name, "scenes": [s.name for s in part]})
        world.load(part)
        acts = [s for s in self.steps if "expect" not in s[1]]
        expects = [s for s in self.steps if "expect" in s[1]]
        while not world.runaway:
            times = [micros(s[0][1]["at"]) for s in (acts, expects) if s]
            due = world.next_due()
            if due <= self.last + AFTER_LAST_STEP:
                times.append(due)
            if world.timers:
                times.append(world.timers[0][0])
            if world.current:
                times.append(world.now)
            if not times:
                break
            world.open(min(times))
            while acts and micros(acts[0][1]["at"]) == world.now:
                self.act(*acts.pop(0))
            world.settle()
            while not world.runaway and expects and micros(expects[0][1]["at"]) == world.now:
                self.judge(*expects.pop(0))
        if not world.runaway:
            self.cut()
        c = self.counts
        strict = self.script.get("strict") and c["troubles"] > 0
        self.out(
            {
                "kind": "verdict", "name": name, "records": world.records, "deliveries": world.deliveries, "end": world.now,
                "held": c["held"], "failed": c["failed"], "unjudged": len(expects), "steps": c["steps"], "cut": c["cut"],
                "runaway": world.runaway, "pass": not (c["failed"] or c["steps"] or world.runaway or strict),
            }
        )

    def named(self, address):
        """(scene, number, instance, fault)"""
        name, _, path = address.partition(":")
        scene = self.world.scene(name) if path else None
        at = scene.find(path) if scene else -1
        if at < 0:
            return None, -1, None, "dangling"
        if not scene.loaded:
            return scene, at, None, "unloaded"
        if not scene.spawned[at]:
            return scene, at, scene.instance(at), None
        born = scene.born.get(scene.template_over(at), [])
        number = re.search(r"~[^/]*#(\d+)", path)
        if number:
            copy = born[int(number[1]) - 1] if int(number[1]) <= len(born) else None
        else:
            living = [c for c in born if not c.root.gone]
            copy = (living or born or [None])[-1]
        return (scene, at, copy.instance(at), None) if copy else (scene, at, None, "unborn")

    def act(self, i, step):
        world = self.world
        if "pause" in step:
            world.paused = step["pause"]
            world.write(0, i, kind="pause", **{"is": step["pause"]})
        elif "publish" in step:
            p = step["publish"]
            known = p["channel"] in world.channels
            everyone = list(range(len(world.peers))) if world.peers else None
            world.take_publication(
                {"cause": 0, "step": i, "bound": None, "audience": everyone, "channel": p["channel"], "known": known,
                 "key": p.get("key"), "payload": p.get("payload", {})}
            )
            self.counts["steps"] += not known
        elif "raise" in step:
            r = step["raise"]
            scene, at, instance, fault = self.named(r["at"])
            event = scene.assets[at].events.get(r["event"]) if scene else None
            by = r.get("by") if world.peers else None
            missing = event is None or (by is not None and by not in world.peers)
            missing = missing or ("activator" in r and r["activator"] not in world.assets)
            if missing:
                fault = "dangling"
            if fault:
                where = instance.address if instance else r["at"]
                reason = "gone" if fault == "unborn" else fault
                world.write(0, i, kind="refused", at=where, event=r["event"], reason=reason)
                self.counts["steps"] += fault != "unborn"
                return
            number = None if by is None else world.peers.index(by)
            world.take_raise(
                raise_of(instance, event, r.get("payload", {}), 0, step=i, by=number, activator=r.get("activator"))
            )

    def judge(self, i, step):
        expect = step["expect"]
        scene, at, instance, fault = self.named(expect["at"])
        asset = scene.assets[at] if scene else None
        got = reason = None
        gone = not instance or instance.gone
        if (
            not asset
            or ("property" in expect and expect["property"] not in asset.properties)
            or ("action" in expect and expect["action"] not in asset.actions)
        ):
            reason = "dangling"
        elif fault == "unloaded":
            reason = fault
        elif "gone" in expect:
            got = gone
        elif "action" in expect:
            got = instance.performed[asset.actions[expect["action"]]] if instance else 0
        elif gone:
            reason = "gone"
        else:
            got = instance.get(expect["property"]) if "property" in expect else instance.is_asleep
        wanted = next(expect[k] for k in ("is", "times", "asleep", "gone") if k in expect)
        ok = reason is None and same(got, wanted)
        where = instance.address if instance else expect["at"]
        body = {**expect, "ok": ok, "at": where, "got": got, **({"reason": reason} if reason else {})}
        self.world.write(0, i, kind="expect", **body)
        self.counts["steps"] += reason in ("dangling", "unloaded")
        self.counts["held" if ok else "failed"] += 1

    def cut(self):
        world = self.world
        for due, _, item in sorted(world.later, key=lambda entry: entry[:2]):
            if item.get("dropped"):
                continue
            self.counts["cut"] += 1
            if item["kind"] == "raise":
                instance = item["instance"]
                what = {"at": instance.address, "event": instance.asset.decl["events"][item["event"]]["name"]}
            else:
                what = item["bound"].through if item["bound"] else {}
                if item["kind"] == "publication":
                    what = {**what, "channel": item["channel"]}
                else:
                    what = {**what, "at": world.where(item), "action": item["bound"].to.get("action", "")}
            world.write(item["cause"], kind="cut", due=due, **what)


def main(folder, steps):
    read = lambda path: json.loads(Path(path).read_text(encoding="utf-8"))
    project = read(Path(folder) / "wiring.json")
    files = [read(Path(folder) / s["file"]) for s in project["scenes"]]
    sys.stdout.reconfigure(encoding="utf-8", newline="\n")
    for rehearsal in read(steps):
        Rehearsal(project, files, rehearsal, lambda line: print(canonical(line))).run()


if __name__ == "__main__":
    main(*sys.argv[1:3])
