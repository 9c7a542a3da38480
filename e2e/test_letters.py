"""Titles: typed on the picture, styled, animated letter by letter, turned in depth, and in the exported film."""

import re
from pathlib import Path

import av
from playwright.sync_api import Page, expect

from oak_lens.media.faces import PACKAGES

from .conftest import call, copy_of_demo, exported, found_command, give, part, project_id, until


def text_of(page: Page) -> str:
    """What the newest text of the first scene says, as it is kept."""
    scenes = call(page, "GET", f"/api/projects/{project_id(page)}")["document"]["scenes"]
    first = min(scenes.values(), key=lambda s: s["order"])
    texts = [layer for layer in first["layers"].values() if layer["kind"] == "text"]
    return "".join(span["text"] for span in max(texts, key=lambda t: t["order"])["text"]) if texts else ""


def kept(page: Page, words: str) -> None:
    until(lambda: text_of(page) == words, 8, words)
    expect(page.get_by_text("kept", exact=True)).to_be_visible()


def test_a_title_is_typed_on_the_picture_styled_animated_turned_and_exported(page: Page, tmp_path: Path) -> None:
    copy_of_demo(page)
    easel = page.get_by_role("img", name="The film at the playhead")
    page.locator("canvas[data-drawn]").first.wait_for()
    page.keyboard.press("t")
    field = page.get_by_label("Text on the picture")
    expect(field).to_be_focused()
    page.keyboard.type("Night over\nthe dome")
    kept(page, "Night over\nthe dome")
    # The caret goes by lines as they are seen; what is chosen is replaced.
    page.keyboard.press("Home")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Shift+End")
    # Put in at once, it is one step, however slow the machine is: what is typed is kept at each pause.
    page.keyboard.insert_text("First light over")
    kept(page, "First light over\nthe dome")
    page.keyboard.press("Control+z")
    kept(page, "Night over\nthe dome")
    page.keyboard.press("Control+Shift+z")
    kept(page, "First light over\nthe dome")
    # A press on the picture puts the caret between the letters that lie there; a double press chooses a word.
    box = easel.bounding_box()
    assert box
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.545)
    page.mouse.dblclick(*middle)
    page.keyboard.type("great")
    until(lambda: "great" in text_of(page) and "the dome" not in text_of(page), 8, "a word replaced")
    page.keyboard.press("Control+a")
    # What an input method composes is seen while it is composed, and kept once it is done.
    composing = page.context.new_cdp_session(page)
    composing.send("Input.imeSetComposition", {"text": "星", "selectionStart": 1, "selectionEnd": 1})
    composing.send("Input.imeSetComposition", {"text": "星の", "selectionStart": 2, "selectionEnd": 2})
    composing.send("Input.insertText", {"text": "星の夜 First light"})
    kept(page, "星の夜 First light")
    page.keyboard.press("Home")
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    part(page, "Text").get_by_role("button", name="Italic").click()
    page.keyboard.press("Escape")
    expect(field).to_have_count(0)
    # A style for all of it, then depth, then letters one after another.
    found_command(page, "Text style: Frontispiece")
    expect(part(page, "Text style")).to_contain_text("Frontispiece")
    swing = part(page, "Placement").get_by_label("Swing, number")
    swing.fill("20")
    swing.press("Enter")
    part(page, "Motion").get_by_role("button", name="none, choose…").nth(1).click()
    page.get_by_role("dialog").get_by_label("Find a move").fill("rises")
    page.get_by_role("list", name="Entrances").get_by_role("button", name=re.compile("^Rises")).first.dblclick()
    expect(part(page, "Motion").get_by_label("What moves by itself")).to_have_value("letter")
    layer = next(
        layer
        for scene in call(page, "GET", f"/api/projects/{project_id(page)}")["document"]["scenes"].values()
        for layer in scene["layers"].values()
        if layer["kind"] == "text" and "".join(span["text"] for span in layer["text"]) == "星の夜 First light"
    )
    assert layer["entrance"]["spread"]["unit"] == "letter" and layer["text"][0]["italic"] is True and layer["style"] == "frontispiece"
    # It comes out in the film: at first no letter is there, then more and more of them.
    film = exported(page, tmp_path, "chosen")
    with av.open(str(film)) as opened:
        frames = [frame.to_ndarray(format="rgb24") for frame in opened.decode(video=0)]
    height, width = frames[0].shape[:2]
    band = (slice(round(height * 0.4), round(height * 0.6)), slice(round(width * 0.1), round(width * 0.9)))
    bright = [float((f[band].min(axis=2) > 222).mean()) for f in frames]
    assert max(bright[:4]) < 0.002 < bright[len(bright) // 4] < bright[len(bright) // 2]


def test_titles_details_own_fonts_and_pasted_texts(page: Page) -> None:
    copy_of_demo(page)
    page.locator("canvas[data-drawn]").first.wait_for()
    found_command(page, "title setting")
    dialog = page.get_by_role("dialog", name="Title settings")
    dialog.get_by_label("Find a title setting").fill("stone")
    dialog.get_by_role("button", name=re.compile("^Slate plaque")).click()
    dialog.get_by_label("First text").fill("{place}")
    dialog.get_by_label("Second text").fill("2,912 m")
    dialog.get_by_role("button", name="Put it on this scene").click()
    expect(page.get_by_role("list", name="Layers, topmost first")).to_contain_text("Slate plaque")
    found_command(page, "project details")
    details = page.get_by_role("dialog", name="Project details")
    details.get_by_label("Place", exact=True).fill("Ossel Ridge")
    details.get_by_label("Place", exact=True).press("Enter")
    page.keyboard.press("Escape")
    document = call(page, "GET", f"/api/projects/{project_id(page)}")["document"]
    assert document["details"]["place"] == "Ossel Ridge"
    # It is called what it says, and chosen by its lane it is seen in the list, in its group; a lock of the group keeps it where it is.
    page.get_by_role("button", name="Lock Slate plaque").click()
    page.get_by_role("region", name="Lanes").get_by_role("button", name=re.compile("^Ossel Ridge")).first.click()
    expect(page.locator("[data-outline=locked]")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^(Turn|Size) "))).to_have_count(0)
    row = page.get_by_role("list", name="Layers, topmost first").get_by_role("button", name="Ossel Ridge", exact=True)
    expect(row).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_label("Details", exact=True)).to_contain_text("Text: Ossel Ridge")
    # What a spread does not use is not offered.
    motion = part(page, "Motion").locator("div.border-l").first
    motion.get_by_label("What moves by itself").select_option("letter")
    motion.get_by_label("Pace of the move").select_option("in")
    expect(motion.get_by_label("Order", exact=True)).to_be_visible()
    motion.get_by_label("What moves by itself").select_option("all")
    expect(motion.get_by_label("Order", exact=True)).to_have_count(0)
    # Text from elsewhere becomes a text of its own.
    page.get_by_role("list", name="Layers, topmost first").focus()
    page.evaluate(
        """() => { const data = new DataTransfer(); data.setData('text/plain', 'Pasted from a notebook');
        document.body.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true})) }"""
    )
    kept(page, "Pasted from a notebook")
    page.keyboard.press("Escape")
    # A font of one's own: checked, added, used; one that is none is refused in a sentence.
    part(page, "Text style").get_by_role("button", name="Face…").click()
    faces = page.get_by_role("dialog", name="Faces")
    good = PACKAGES / "@fontsource" / "special-elite" / "files" / "special-elite-latin-400-normal.woff2"
    give(faces.get_by_role("button", name="Add a font…"), [{"name": "no.ttf", "mimeType": "font/ttf", "buffer": b"no font at all"}, {"name": "own.woff2", "mimeType": "font/woff2", "buffer": good.read_bytes()}])
    expect(page.get_by_text(re.compile("no.ttf: This file is no font"))).to_be_visible()
    faces.get_by_role("button", name=re.compile("^Special Elite.*Added to this project")).click()
    expect(part(page, "Letters").get_by_role("button", name=re.compile("^Special Elite"))).to_be_visible()
    # A double press on an empty place puts a text there; one that says nothing is taken away again.
    layers = page.get_by_role("list", name="Layers, topmost first").get_by_role("listitem")
    before = layers.count()
    found_command(page, "write the chosen text")
    page.get_by_label("Text on the picture").fill("")
    page.keyboard.press("Escape")
    expect(layers).to_have_count(before - 1)
