"""From the first question to a sheet, the next line followed each time: a flat four at the desk by keys alone, a truck on the phone by touch."""

import re
import unittest
from typing import Any

from playwright.sync_api import CDPSession, Locator, Page, expect

from tests.browser.served import BrowserCase

#: Acts from a new build to a sheet on which nothing is not known yet.
MOST_ACTS = 25


class Hand:
    """How a person presses, types and chooses. By touch or mouse."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def press(self, what: Locator) -> None:
        what.click()

    def type(self, pointer: str, text: str) -> None:
        box = self.field(pointer)
        box.fill(text)
        box.press("Enter")
        expect(box).to_have_value(text)
        # A hand is slower than the answer: what it moved has moved before the next press.
        BrowserCase.quiet(self.page)
        self.page.evaluate("new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")

    def choose(self, pointer: str, word: str) -> None:
        self.press(self.field(pointer))
        self.press(self.page.get_by_role("option", name=word))

    def select(self, pointer: str, value: str) -> None:
        self.field(pointer).select_option(value)

    def pick(self, what: Locator, value: str) -> None:
        what.select_option(value)

    def check(self, label: str) -> None:
        self.radio(label).check()

    def radio(self, label: str) -> Locator:
        return self.page.get_by_role("radio", name=re.compile(rf"^\s*{label}\b")).first

    def fill(self, label: str, text: str) -> None:
        self.page.get_by_label(label).fill(text)

    def field(self, pointer: str) -> Locator:
        return self.page.locator(f'[id="f{pointer}"]')


class Keys(Hand):
    """With the keyboard alone: Tab to what is wanted, then Enter, Space, letters and arrows."""

    wire: CDPSession | None = None

    #: How many stops of the keyboard lie between where it is and something, as the document has them: backwards below nought.
    FAR = """e => {
        const stops = [...document.querySelectorAll("a[href], button, input, select, textarea, summary, [tabindex]")].filter(x =>
            x.tabIndex >= 0 && !x.disabled && !x.closest("[inert]") && x.checkVisibility() &&
            (x.type !== "radio" || x.checked || !document.querySelector(`input[name="${x.name}"]:checked`)));
        const at = document.activeElement, [here, there] = [stops.indexOf(at), stops.indexOf(e)];
        if (there < 0 || here >= 0) return there < 0 ? 0 : there - here;
        const passed = stops.filter(x => at.compareDocumentPosition(x) & Node.DOCUMENT_POSITION_PRECEDING).length;
        return there < passed ? there - passed : there - passed + 1;
    }"""

    def tab(self, times: int, *, backwards: bool) -> None:
        """The key held down: the browser is told of each stop, and of its being let go once."""
        wire = self.wire = self.wire or self.page.context.new_cdp_session(self.page)
        key = {"key": "Tab", "code": "Tab", "windowsVirtualKeyCode": 9, "modifiers": 8 if backwards else 0}
        for _ in range(times):
            wire.send("Input.dispatchKeyEvent", {"type": "rawKeyDown", **key})
        wire.send("Input.dispatchKeyEvent", {"type": "keyUp", **key})

    def reach(self, what: Locator) -> None:
        expect(what).to_be_attached()
        handle = what.element_handle()
        far = self.page.evaluate(self.FAR, handle)
        self.tab(abs(far), backwards=far < 0)
        for key in ["Tab"] * 40 + ["Shift+Tab"] * 160:
            if self.page.evaluate("e => document.activeElement === e", handle):
                return
            self.page.keyboard.press(key)
        raise AssertionError(f"no key leads to {what}")

    def press(self, what: Locator) -> None:
        self.reach(what)
        self.page.keyboard.press("Enter")

    def type(self, pointer: str, text: str) -> None:
        box = self.field(pointer)
        self.reach(box)
        self.page.keyboard.press("Control+A")
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")
        expect(box).to_have_value(text)

    def choose(self, pointer: str, word: str) -> None:
        self.press(self.field(pointer))
        expect(self.page.get_by_role("option", name=word)).to_be_visible()
        self.page.keyboard.type(word[:4])
        self.page.keyboard.press("Enter")
        expect(self.field(pointer)).to_contain_text(word)

    def select(self, pointer: str, value: str) -> None:
        self.reach(self.field(pointer))
        self.page.keyboard.type(value)
        self.page.keyboard.press("Tab")
        expect(self.field(pointer)).to_have_value(value)

    def pick(self, what: Locator, value: str) -> None:
        self.reach(what)
        for _ in range(40):
            if what.input_value() == value:
                return
            self.page.keyboard.press("ArrowDown")
        raise AssertionError(f"no key picks {value}")

    def check(self, label: str) -> None:
        one = self.radio(label)
        name = one.get_attribute("name")
        group = self.page.locator(f'input[name="{name}"]')
        # Tab goes to a group of choices once, to its chosen one or its first; arrows go along it.
        for _ in range(80):
            if self.page.evaluate("n => document.activeElement?.name === n", name):
                break
            self.page.keyboard.press("Tab")
        self.page.keyboard.press("Space")
        for _ in range(group.count()):
            if one.is_checked():
                return
            self.page.keyboard.press("ArrowDown")
        raise AssertionError(f"no key checks {label}")

    def fill(self, label: str, text: str) -> None:
        self.reach(self.page.get_by_label(label))
        self.page.keyboard.type(text)


class Following(BrowserCase):
    """How the next line is followed."""

    def begin(self, hand: Hand, steps: list[dict[str, str]]) -> str:
        for step in steps:
            for label, answer in step.items():
                if answer:
                    hand.fill(label, answer)
                else:
                    hand.check(label)
            hand.press(hand.page.locator("form button[type=submit]"))
        hand.page.wait_for_url("**/engine")
        return hand.page.url.removesuffix("/engine")

    def plan(self, car: str) -> dict[str, Any]:
        for page in self.pages:
            self.quiet(page)
        found: dict[str, Any] = self.api("GET", car.replace(self.address, "").replace("/b/", "/api/builds/"))["plan"]
        return found

    def accept(self, hand: Hand) -> None:
        """What is assumed on this bench was looked at, and is so."""
        here = hand.page.locator("details", has_text="in pencil here")
        if here.count():
            accept = here.get_by_role("button", name="All of it is so, accept")
            for _ in range(3):  # the bench may just have been drawn anew
                hand.press(here.locator("summary"))
                self.quiet(hand.page)
                if accept.is_visible():
                    break
            hand.press(accept)
            expect(here).to_have_count(0)

    def settle(self, hand: Hand, at: str, cylinders: int) -> None:
        page, main = hand.page, hand.page.locator("#main")
        if at == "/engine/compression":
            for i in range(cylinders):
                hand.press(main.get_by_role("button", name="Add reading"))
                expect(hand.field(f"/engine/compression/{i}/dry")).to_be_visible()
                hand.type(f"/engine/compression/{i}/dry", f"{1150 - 10 * (i % 2)} kPa")
        elif at == "/ignition/outputs":
            hand.press(main.get_by_role("button", name="It is wired as proposed"))
        elif at.startswith("/wiring/feed"):
            for key, volts in (("off", "0 V"), ("run", "12.4 V"), ("crank", "10.6 V")):
                hand.type(f"/wiring/feed/{key}", volts)
        elif at == "/wiring/grounds":
            for word, key, field, value in (
                ("Strap, battery to block", "block_strap", "rise", "90 mV"),
                ("Control unit", "unit", "lands", "battery minus"),
                ("Sensors", "sensors", "lands", "control unit"),
            ):
                hand.press(main.get_by_role("button", name=f"+ {word}"))
                row = f"/wiring/grounds/{key}"
                hand.press(hand.field(row).locator("summary"))
                if field == "lands":
                    hand.choose(f"{row}/{field}", value)
                else:
                    hand.type(f"{row}/{field}", value)
        elif at == "/wiring/pairs":
            hand.choose(at, "twisted shielded")
        elif at.startswith("/wiring/beside"):
            self.beside(hand)
        elif at.startswith("/wiring/charging"):
            hand.type("/wiring/charging/output_idle", "45 A")
            hand.type("/wiring/charging/output_full", "70 A")
        elif at == "/fuel/pump/outlet_bore":
            hand.type(at, "7.9 mm")
        elif at == "/fuel/pump/relief":
            hand.type(at, "600 kPa")
        elif at == "/injectors/dead_time":
            for i, (volts, ms) in enumerate(((8, 2.4), (10, 1.6), (12, 1.15), (14, 0.9), (16, 0.75))):
                hand.press(main.get_by_role("button", name="Add voltage"))
                hand.type(f"{at}/{i}/voltage", f"{volts} V")
                hand.type(f"{at}/{i}/time", f"{ms} ms")
        elif at == "/air/throttle":
            hand.press(main.get_by_role("button", name="Describe the throttle body"))
            hand.type("/air/throttle/bores", "2" if cylinders == 4 else "4")
            hand.type("/air/throttle/bore", "34 mm" if cylinders == 4 else "44 mm")
        elif at == "/air/linkage":
            hand.press(main.get_by_role("button", name="Describe pedal and linkage"))
            for key, text in (
                ("pedal_travel", "62 mm"),
                ("pedal_ratio", "4:1"),
                ("lever", "9.3 mm"),
                ("slack", "2 mm"),
                ("springs", "2"),
                ("cable_angle", "5 deg"),
                ("clearance", "12 mm"),
            ):
                hand.type(f"/air/linkage/{key}", text)
            hand.choose("/air/linkage/moves", "free")
            hand.choose("/air/linkage/gearbox_cable", "none")
            hand.press(hand.field("/air/linkage/body_spring_shuts").get_by_role("button", name="yes"))
        elif at == "/air/ports":
            for name, source, bore in (
                ("rear", "full manifold", "10 mm"),
                ("small", "full manifold", "4 mm"),
                ("valve", "full manifold", "10 mm"),
                ("box", "filtered air", "12 mm"),
            ):
                hand.fill("Name of a port", name)
                hand.press(main.get_by_role("button", name="Add port"))
                row = f"/air/ports/{name}"
                hand.press(hand.field(row).locator("summary"))
                hand.choose(f"{row}/source", source)
                hand.type(f"{row}/bore", bore)
                if name != "box":
                    hand.press(hand.field(f"{row}/central"))
            for i, (kind, port, bore) in enumerate(
                (
                    ("brake booster", "rear", "10 mm"),
                    ("pressure sensor", "small", "4 mm"),
                    ("crankcase valve", "valve", "10 mm"),
                    ("crankcase breather", "box", "12 mm"),
                )
            ):
                hand.press(main.get_by_role("button", name=kind))
                row = f"/air/consumers/{i}"
                expect(hand.field(row)).to_be_attached()
                if not hand.field(f"{row}/port").is_visible():
                    hand.press(hand.field(row).locator("summary"))
                hand.select(f"{row}/port", port)
                hand.type(f"{row}/bore", bore)
                if i == 0:
                    hand.press(hand.field(f"{row}/check_valve").get_by_role("button", name="yes"))
        elif at == "/sensors/decisions":
            rows = main.locator("li[id^='f/sensors/decisions/']")
            for i in range(rows.count()):
                word = "left out" if "fuel pressure" in rows.nth(i).inner_text() else "fitted"
                hand.press(rows.nth(i).get_by_role("button", name=word))
        elif at.startswith("/tune/typed"):
            build = self.api("GET", page.url.split("/tune")[0].replace(self.address, "").replace("/b/", "/api/builds/"))["build"]
            for key, text in (
                ("displacement", build["engine"]["displacement"]),
                ("cylinders", str(cylinders)),
                ("injector_flow", build["injectors"]["flow"]),
                ("base_pressure", "300 kPa"),
            ):
                hand.type(f"/tune/typed/{key}", text)
        else:
            raise AssertionError(f"nobody knows how to settle {at}")

    def beside(self, hand: Hand) -> None:
        """Every branch looked along: spark leads keep away, and what nears the exhaust has its sleeve."""
        branches = hand.page.get_by_label("Branch", exact=True)
        for key in branches.locator("option").evaluate_all("all => all.map(o => o.value)"):
            hand.pick(branches, key)
            hand.type(f"/wiring/beside/{key}/spark_leads", "0 mm")
            if "exhaust" in key:
                hand.choose(f"/wiring/beside/{key}/sleeve", "yes")

    def follow(self, hand: Hand, car: str, cylinders: int) -> int:
        """The next line pressed, and done as it says, until nothing is not known: how often."""
        for many in range(MOST_ACTS + 1):
            plan = self.plan(car)
            unknown = [f for f in plan["findings"] if f["severity"] == "unknown"]
            if not unknown:
                return many
            act = plan["next"][0]
            self.assertIn(act["kind"], ("settle", "measure"), act)
            line = hand.page.get_by_test_id("next")
            expect(line).to_contain_text(act["says"])
            hand.press(line.get_by_role("link").first)
            there = f"{car}/{act['station']}/{act['bench']}"
            hand.page.wait_for_url(lambda url, there=there: url.startswith(there))  # type: ignore[misc]
            expect(hand.page.locator("#main h1")).to_be_visible()
            self.accept(hand)
            for at in dict.fromkeys(f["at"] for f in unknown if f["bench"] == act["bench"] and f["station"] == act["station"]):
                if any(f["at"] == at and f["severity"] == "unknown" for f in self.plan(car)["findings"]):
                    self.settle(hand, at, cylinders)
            self.accept(hand)
            expect(line).not_to_contain_text(act["says"])
        left = [f["code"] for f in self.plan(car)["findings"] if f["severity"] == "unknown"]
        raise AssertionError(f"{MOST_ACTS} acts and still not known: {left}")

    def printed(self, hand: Hand, car: str) -> None:
        plan = self.plan(car)
        self.assertEqual([f["code"] for f in plan["findings"] if f["holds"]], [])
        hand.page.goto(f"{car}/start")
        with hand.page.expect_download() as download:
            hand.page.get_by_role("link", name="Sheet as PDF").click()
        with open(download.value.path(), "rb") as file:
            self.assertEqual(file.read(4), b"%PDF")


class FlatFour(Following):
    def test_a_flat_four_by_keys_alone(self) -> None:
        page = self.open("/new")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        hand = Keys(page)
        car = self.begin(
            hand,
            [
                {"What do you call the car?": "Flat four saloon", "In two throttle bodies": "", "Two": ""},
                {"Flat": "", "4": "", "1-4-3-2": "", "Displacement": "1285 cc", "Air": ""},
                {"Power wanted": "42 kW", "E10": "", "It stays as it is": ""},
            ],
        )  # fmt: skip
        acts = self.follow(hand, car, 4)
        self.assertGreater(acts, 10)
        self.printed(hand, car)


class Truck(Following):
    def test_a_truck_on_the_phone(self) -> None:
        page = self.open("/new", width=390, height=844, touch=True)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        hand = Hand(page)
        car = self.begin(
            hand,
            [
                {"What do you call the car?": "V8 truck", "In a throttle body": "", "One ?On a manifold": ""},
                {"Vee": "", "8": "", "1-8-4-3-6-5-7-2": "", "Displacement": "5002 cc", "Water": ""},
                {"Power wanted": "150 kW", "E10": "", "It stays as it is": ""},
            ],
        )  # fmt: skip
        acts = self.follow(hand, car, 8)
        self.assertGreater(acts, 10)
        self.printed(hand, car)


if __name__ == "__main__":
    unittest.main()
