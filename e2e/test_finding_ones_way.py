"""One finds one’s way: chapters of the details, numbers and actions by their names, columns as one wants them."""

import io
import re
from typing import Any

import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from oak_lens.api.models import EditAnswer
from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import OakError
from oak_lens.stack.start import ROOT

from .conftest import call, copy_of_demo, demo, numbered_row, open_desk, part, project_id, until


def photo(page: Page, scene: str) -> dict[str, Any]:
    """The only photo of a scene, as it is kept."""
    document = call(page, "GET", f"/api/projects/{project_id(page)}")["document"]
    return next(s["layers"]["photo"] for s in document["scenes"].values() if s["name"] == scene)  # type: ignore[no-any-return]


def test_chapters_stay_in_reach_fold_tell_what_differs_and_a_number_is_found_by_its_name(page: Page) -> None:
    copy_of_demo(page)
    details = page.get_by_role("complementary", name="Details")
    tabs = details.get_by_role("tablist")
    # By keyboard from one chapter to the next; it stays open from scene to scene, and over a reload.
    part(page, "Placement")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(tabs.get_by_role("tab", name="Look")).to_have_attribute("aria-selected", "true")
    expect(tabs.get_by_role("tab", name="Look")).to_be_focused()
    numbered_row(page, 6).click()
    expect(details.get_by_role("region", name="Mount")).to_be_visible()
    details.get_by_role("button", name="Mount").first.click()
    expect(details.get_by_label("Border, number")).to_be_hidden()
    page.reload()
    expect(details.get_by_role("region", name="Mount")).to_be_visible()
    expect(details.get_by_label("Border, number")).to_be_hidden()
    details.get_by_role("button", name="Mount").first.click()
    # What differs from the default says so, at its chapter too.
    numbered_row(page, 1).click()
    light = part(page, "Light")
    expect(light.get_by_role("button", name="Light", exact=True)).to_be_visible()
    light.get_by_role("button", name="Switch a lamp on").click()
    expect(light.get_by_role("button", name="Light (differs from the default)")).to_be_visible()
    expect(tabs.get_by_role("tab", name="Camera (something in it differs")).to_be_visible()
    # Found by typing, with a slip, whichever chapter it is in; Enter goes to it.
    page.keyboard.press("/")
    page.keyboard.type("opacty")
    expect(details.get_by_role("region")).to_have_count(2)
    expect(details.get_by_role("region", name="Placement").get_by_label("Across, number")).to_have_count(0)
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowDown")
    until(lambda: photo(page, "Ridge behind ridge")["opacity"] == pytest.approx(0.99), 5, "less opaque")
    details.get_by_label("Find a number").fill("nothing of this name")
    expect(details).to_contain_text("No number of what is chosen is called")
    # By its part: all of it. Found by the pointer, and back to the chapters.
    details.get_by_label("Find a number").fill("backdrop")
    expect(details.get_by_role("region", name="Backdrop").get_by_label("Kind", exact=True)).to_be_visible()
    details.get_by_role("button", name="Back to the chapters").click()
    details.get_by_role("button", name="Find a number (/)").click()
    expect(details.get_by_label("Find a number")).to_be_focused()
    page.keyboard.press("Escape")
    expect(tabs).to_be_visible()


def test_columns_and_lanes_are_resized_by_pointer_and_keyboard_and_stay_so(page: Page) -> None:
    open_desk(page, demo(page))
    sheet, lanes = page.get_by_role("region", name="Run sheet"), page.get_by_role("region", name="Lanes")
    wide, high = width(sheet), height(lanes)
    edge = page.get_by_role("separator", name="Width of the run sheet")
    box = edge.bounding_box()
    assert box
    page.mouse.move(box["x"] + 3, 300)
    page.mouse.down()
    page.mouse.move(box["x"] + 63, 300, steps=4)
    page.mouse.up()
    until(lambda: width(sheet) == pytest.approx(wide + 60, abs=2), 5, "as wide as it was dragged")
    # Escape gives a drag up, as it does everywhere.
    page.mouse.move(box["x"] + 63, 300)
    page.mouse.down()
    page.mouse.move(box["x"] + 23, 300, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    until(lambda: width(sheet) == pytest.approx(wide + 60, abs=2), 5, "as wide as it was dragged")
    upper = page.get_by_role("separator", name="Height of the lanes")
    upper.press("Shift+ArrowUp")
    upper.press("ArrowDown")
    until(lambda: height(lanes) == pytest.approx(high + 64, abs=2), 5, "higher by keys")
    page.reload()
    expect(edge).to_be_visible()
    until(lambda: (width(sheet), height(lanes)) == (pytest.approx(wide + 60, abs=2), pytest.approx(high + 64, abs=2)), 5, "as it was left")
    # However small the window, each keeps its room; the usual sizes come back with a key.
    page.set_viewport_size({"width": 1024, "height": 700})
    until(lambda: width(page.get_by_role("region", name="Easel")) > 380, 5, "room for the easel")
    edge.focus()
    page.keyboard.press("Home")
    page.set_viewport_size({"width": 1280, "height": 800})
    until(lambda: width(sheet) == pytest.approx(wide, abs=1), 5, "as usual")


ORDER = ("redo", "beats-tap", "beats-remove", "copy", "ease-", "keys-", "path-", "curves", "lane-away", "turn-", "reset-window", "")
LATE = (
    "group",
    "list-",
    "together",
    "into-film",
    "ungroup",
    "go-",
    "scenes-",
    "duplicate",
    "place-",
    "picture-",
    "delete",
    "undo",
    "remove-",
    "all",
)
"""What needs something that is chosen comes first; what changes what is chosen, or leads elsewhere, last."""

ASKS = {"add-pictures": "contact-sheet", "add-folder": "contact-sheet", "replace-file": "contact-sheet", "add-music": "sound"}
"""They ask for files."""

APART = {"full", "projects", "filling", "film-table", "sign-out", *ASKS}
"""Full screen and files need a key that is really pressed; four lead away: they are done otherwise."""

BY_HAND = """
  const find = (selector) => document.querySelector(selector);
  const wait = (found, ms = 8000) => new Promise(done => {
    const end = performance.now() + ms;
    const look = () => { const it = found(); if (it || performance.now() > end) done(it); else setTimeout(look, 4); };
    look();
  });
  const press = (init) => (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', {bubbles: true, cancelable: true, ...init}));
  const type = (box, text) => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(box, text);
    box.dispatchEvent(new Event('input', {bubbles: true}));
  };
  // How it looks is looked at elsewhere: the desk under the list is neither laid out nor painted.
  const hide = (hidden) => { document.getElementById('root').style.contentVisibility = hidden ? 'hidden' : ''; };
"""

OFFERED = (
    "async (probes) => {"
    + BY_HAND
    + """
  const offered = {};
  hide(true);
  press({key: 'k', ctrlKey: true});
  const box = await wait(() => find('[role=combobox]'));
  const total = parseInt(find('#commands').nextElementSibling.textContent);
  for (const words of probes) {
    if (Object.keys(offered).length === total) break;
    type(box, words);
    await new Promise(done => setTimeout(done));
    for (const row of document.querySelectorAll('#commands [role=option]')) offered[row.id.slice(8)] = row.firstElementChild.textContent;
  }
  press({key: 'Escape'});
  await wait(() => !find('[role=combobox]'));
  hide(false);
  return [offered, total];
}"""
)

DRIVE = (
    "async ([entries, again, HEAD]) => {"
    + BY_HAND
    + r"""
  // Nothing is asked for here.
  const send = WebSocket.prototype.send;
  WebSocket.prototype.send = () => {};
  hide(true);
  // What is asked for is written down, to be done afterwards, each by itself: the answer is that nothing has changed.
  const really = window.fetch, posted = [];
  const {revision, timeline, applied} = await (await really(`/api/projects/${location.pathname.split('/')[2]}`)).json();
  const same = {...Object.fromEntries(HEAD.map(name => [name, null])), revision, timeline, applied, marks: {}, media: {}, scenes: {}, undo: 'it', redo: 'it'};
  let asked = 0, doing = '';
  window.fetch = async (...what) => {
    const request = what[0] instanceof Request ? what[0] : new Request(...what);
    const step = request.method === 'POST' && /\/(edits|undo|redo)$/.exec(request.url);
    if (!step) return really(...what);
    asked += 1;
    if (step[1] === 'edits') posted.push([doing, (await request.json()).edits]);
    return Response.json(same);
  };
  const said = [];
  for (const [ids, label] of entries) {
    if (!find('#easel')) {
      find('nav[aria-label=Places] a:nth-child(2)').click();
      await wait(() => find('#easel canvas'));
    }
    const id = ids[0], field = {title: 'Project title', 'scene-name': 'Name of the scene', 'rename-layer': 'Name of the layer', 'find-number': 'Find a number'}[id];
    hide(!field);
    const before = asked;
    doing = label;
    for (const more of [true, false]) {
      press({key: 'k', ctrlKey: true});
      const box = await wait(() => find('[role=combobox]'));
      if (!box) return [[...said, `before ${id} the list does not open: ${document.activeElement.outerHTML}`], posted];
      type(box, label);
      const rows = () => ids.map(it => document.getElementById(`command-${it}`));
      // All of one kind are pressed at once: the list closes when that is over.
      if (await wait(() => rows().every(Boolean), 150)) { for (const row of rows()) row.click(); break; }
      // What was done before has chosen something else, for which it is not offered.
      const missing = ids.filter((_, i) => !rows()[i]);
      press({key: 'Escape'});
      await wait(() => !find('[role=combobox]'));
      if (more) find('[data-scene="a"]')?.click(), [...document.querySelectorAll('[aria-label^="Layers, topmost"] button')].find(b => b.textContent === again)?.click();
      else said.push(`not offered: ${missing}`);
    }
    await wait(() => !find('[role=combobox]'));
    if (field) {
      if (!(await wait(() => document.activeElement?.getAttribute('aria-label') === field, 2000))) said.push(`${id} leads into no field`);
      press({key: 'Escape'});
      await new Promise(done => setTimeout(done));
    } else if (/^(dialog-|join$|beginning$|ending$|correct$|trim$)/.test(id)) {
      if (!(await wait(() => find('[role=dialog]')))) said.push(`${id} opens nothing`);
      press({key: 'Escape'});
      await wait(() => !find('[role=dialog]'));
    } else {
      const edits = ids.filter(it => /^(add|look|title|style|letters|move|entrance|exit|camera|join|layout|ease|align|spread|turn|flip|sort|song|beats|keys|path|fit)-/.test(it)).length;
      if (!(await wait(() => asked >= before + edits, 4000))) said.push(`${label}: only ${asked - before} of ${edits} change something`);
      await wait(() => find('header [role=status]').textContent === 'kept');
    }
  }
  WebSocket.prototype.send = send;
  hide(false);
  window.fetch = really;
  return [said, posted];
}"""
)


def small_project(page: Page) -> str:
    """A project of small cards in which every action finds something to do: layers with keyframes, groups, a look that is followed, songs."""
    project = str(call(page, "POST", "/api/projects", {"title": "Every command"})["id"])
    path = f"/api/projects/{project}"
    token = page.request.get("/api/session").json()["token"]
    pictures = []
    for number in range(3):
        card = io.BytesIO()
        Image.new("RGB", (96, 64), (60 * number + 40, 90, 120)).save(card, "PNG")
        headers = {"X-Oak-Token": token, "X-File-Name": f"card{number}.png"}
        record = page.request.post(f"{path}/pictures", headers=headers, data=card.getvalue()).json()["record"]
        pictures.append({"id": f"p{number}", **record})
    sound = call(page, "POST", f"{path}/made-music", {"mood": "calm", "tempo": 90, "intensity": 0.2, "seconds": 5, "seed": 1})["record"]
    photos = [{"id": name, "media": "p1"} for name in ("Two", "Three", "Four", "Five")]
    edits: list[dict[str, Any]] = [
        {"edit": "set_frame", "width": 320, "height": 180, "rate": "24"},
        {"edit": "add_pictures", "pictures": pictures},
        {"edit": "add_scenes", "scenes": [{"id": "a", "media": "p0"}, {"id": "b", "media": "p1"}]},
        {"edit": "add_photos", "scene": "a", "photos": photos},
        {"edit": "add_photos", "scene": "b", "photos": [{"id": "Six", "media": "p1"}, {"id": "Seven", "media": "p1"}]},
        *({"edit": "set_layers", "layers": [{"scene": "a", "layer": p["id"]}], "name": p["id"]} for p in photos),
        {
            "edit": "group_layers",
            "layers": [{"scene": "a", "layer": "Four"}, {"scene": "a", "layer": "Five"}],
            "id": "pair",
            "name": "Pair",
        },
        {"edit": "group_layers", "layers": [{"scene": "b", "layer": "Six"}, {"scene": "b", "layer": "Seven"}], "id": "other"},
        {"edit": "share_group", "scene": "b", "layer": "other", "id": "shared"},
        {"edit": "make_template", "id": "ours", "name": "Ours", "scenes": ["b"]},
        {"edit": "add_text", "scene": "a", "id": "words", "text": "Ridge", "name": "Words"},
        {"edit": "use_look", "look": "bare", "photos": [{"scene": "a", "layer": "Two"}]},
        {"edit": "add_keys", "lanes": [{"scene": "a", "layer": "Two", "property": "placement.path", "on": "a"}], "at": 0},
        {"edit": "add_keys", "lanes": [{"scene": "a", "layer": "Two", "property": "placement.path", "on": "a"}], "at": 705_600_000},
        {"edit": "add_sounds", "sounds": [{"id": "m", **sound}, {"id": "n", **sound}]},
    ]
    opened = call(page, "POST", f"{path}/edits", {"base": 1, "edits": edits})
    first, second = call(page, "GET", path)["document"]["songs"]
    shaped = {"points": {"p": {"at": 0, "level": -3.0}}, "length": 4 * 705_600_000}
    edits = [
        {"edit": "set_songs", "ids": [first], "song": shaped},
        {"edit": "set_songs", "ids": [second], "song": {"muted": True}},
        {"edit": "set_guides", "guides": [{"axis": "x", "at": 0.3}]},
        {"edit": "set_poster", "at": 0},
    ]
    call(page, "POST", f"{path}/edits", {"base": opened["revision"], "edits": edits})
    return project


def choose_song(page: Page, number: int) -> None:
    page.get_by_role("link", name="Sound").click()
    page.get_by_role("list", name="Songs").get_by_role("button").nth(number).click()


def choose_pictures(page: Page, count: int) -> None:
    page.get_by_role("link", name="Contact sheet").click()
    tiles = page.get_by_role("list", name="Pictures").get_by_role("button")
    for n in range(count):
        tiles.nth(n).click(modifiers=["Control"] if n else [])
    page.get_by_role("link", name="Desk").click()
    page.get_by_role("heading", name="Run sheet").wait_for()


def layer(page: Page, name: str) -> Locator:
    return page.get_by_role("list", name="Layers, topmost first").get_by_role("button", name=name, exact=True)


def a_keyframe(page: Page) -> None:
    choose_song(page, 0)
    choose_pictures(page, 1)
    layer(page, "Two").click()
    page.get_by_role("button", name=re.compile("^Keyframe of Two, ")).first.press(" ")
    page.keyboard.press("Control+a")


def several_of_each(page: Page) -> None:
    choose_song(page, 1)
    choose_pictures(page, 2)
    numbered_row(page, 1).click()
    layer(page, "Two").click()
    layer(page, "Three").click(modifiers=["Control"])
    layer(page, "card0").click(modifiers=["Control"])


def a_text(page: Page) -> None:
    numbered_row(page, 1).click()
    layer(page, "Words").click()


def a_group(page: Page) -> None:
    numbered_row(page, 1).click()
    layer(page, "Pair").click()


def a_layer_in_a_group(page: Page) -> None:
    numbered_row(page, 1).click()
    page.get_by_role("button", name="Open Pair").click()
    layer(page, "Four").click()


def two_scenes(page: Page) -> None:
    numbered_row(page, 1).click()
    for _ in range(2):
        page.keyboard.press("k")
        page.get_by_role("button", name="Undo: ").wait_for()
        page.keyboard.press(".")
    expect(page.get_by_role("banner").get_by_text("kept", exact=True)).to_be_visible()
    page.get_by_role("button", name="Undo: ").click()
    page.get_by_role("button", name="Redo: ").wait_for()
    numbered_row(page, 2).click(modifiers=["Control"])


CHOICES = (
    (a_keyframe, "Two"), (a_layer_in_a_group, "Four"), (a_group, "Pair"), (a_text, "Words"), (several_of_each, "Two"), (two_scenes, "Two"),
)  # fmt: skip
"""What is chosen, so that everything can be done to something; and what is chosen again where that was lost."""

PROBES = (
    "",
    *"abcdefghijklmnopqrstuvwxyz",
    *[
        "ea",
        "mo",
        "lo",
        "jo",
        "ca",
        "en",
        "ex",
        "picture",
        "song",
        "beats",
        "key",
        "path",
        "move",
        "layer",
        "scene",
        "go",
        "look",
        "film",
        "lamp",
        "the",
        "chosen",
    ],
)


def rank(key: str) -> tuple[int, str]:
    late = next((n + 1 for n, name in enumerate(LATE) if key.startswith(name)), 0)
    return late * 100 + next(n for n, name in enumerate(ORDER) if key.startswith(name)), key


def together(entries: dict[str, str]) -> list[tuple[list[str], str]]:
    """Commands in the order they are done in, those of one kind (`Look: …`) at once, with the words that find them."""
    found: dict[str, list[str]] = {}
    for key in sorted(entries, key=rank):
        kind, _, name = entries[key].partition(": ")
        found.setdefault(kind if name and not key.startswith("go-") else entries[key], []).append(key)
    return [(keys, kind if len(keys) > 1 else entries[keys[0]]) for kind, keys in found.items()]


def offered(page: Page) -> dict[str, str]:
    """All commands that can be done now, from what is found by words: the list shows the best sixty."""
    entries, total = page.evaluate(OFFERED, PROBES)
    assert len(entries) == total
    return entries  # type: ignore[no-any-return]


def test_every_entry_of_the_command_list_does_what_it_says(page: Page) -> None:
    project = small_project(page)
    page.route("**/frame?*", lambda route: route.abort())
    # Other tests are the other browsers: they stay signed in.
    page.route(
        "**/api/session/end",
        lambda route: route.fulfill(status=204) if '"others":true' in (route.request.post_data or "") else route.continue_(),
    )
    done, faults, posted = set(APART), [], []
    open_desk(page, project)
    page.locator("canvas[data-drawn]").first.wait_for()
    for choose, again in CHOICES:
        choose(page)
        entries = {key: label for key, label in offered(page).items() if key not in done}
        done |= set(entries)
        said, steps = page.evaluate(DRIVE, [together(entries), again, list(EditAnswer.model_fields)])
        faults += said
        posted += steps
        open_desk(page, project)
    document = Document.model_validate(call(page, "GET", f"/api/projects/{project}")["document"])
    for key, edits in posted:
        try:
            apply_edits(document, parse_edits(edits))
        except OakError as error:
            faults.append(f"{key}: {error}")
    assert not faults, "\n".join(faults)
    assert len(posted) > 200
    files = [path for path in (ROOT / "web" / "src" / "features").rglob("*.ts") if path.stem in ("commands", "keyed", "listed")]
    written = {name for file in files for name in re.findall(r"\bid: '([a-z-]+)',\s+label:", file.read_text())}
    assert len(files) > 10 and not sorted(written - done)
    for key, place in ASKS.items():
        if key == "replace-file":
            choose_pictures(page, 1)
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="Find a command").fill(key.replace("-", " "))
        page.get_by_role("option").first.wait_for()
        assert page.get_by_role("option").first.get_attribute("id") == f"command-{key}"
        with page.expect_file_chooser():
            page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile(f"{place}$"))
    for label, seen in (("Fill step by step", "Name of the film"), ("Films from a table", "A film of each row"), ("All projects", "Projects"), ("Sign out this browser", "Oak Lens")):
        open_desk(page, project)
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="Find a command").fill(label)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name=seen)).to_be_visible()


def width(locator: Locator) -> float:
    box = locator.bounding_box()
    assert box
    return box["width"]


def height(locator: Locator) -> float:
    box = locator.bounding_box()
    assert box
    return box["height"]
