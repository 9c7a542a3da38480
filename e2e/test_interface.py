"""The interface around the job: accessibility, two windows, projects, order, theme, empty and error states."""

import re
from pathlib import Path

from playwright.sync_api import BrowserContext, Page, expect

from oak_lens.stack.start import ROOT

from .conftest import CHAPTERS, DEMO, Running, call, copy_of_demo, demo, found_command, give, open_projects, part, project_id, until

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()


def serious(page: Page, part: str = "") -> list[str]:
    """Serious findings of axe, by evaluating it past the page's own policy, on paper; and of contrast, all that is different there, with all
    dark. `part` is a selector of what is new since the view before: the rest has been looked at."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    found: list[str] = page.evaluate(FOUND, part)
    if found:
        # What was just changing is not what one comes to see: only what is still so counts.
        page.wait_for_timeout(800)
        found = [finding for finding in page.evaluate(FOUND, part) if finding in found]
    return found


FOUND = """async part => {
    const dialog = document.querySelector('[role=dialog]'), behind = document.getElementById('root'), theme = document.documentElement.dataset;
    // What lies behind a dialog has been looked at before, and cannot be reached: it is not laid out meanwhile.
    if (dialog) behind.style.display = 'none';
    const all = dialog ?? (part ? document.querySelector(part) : document), options = {resultTypes: ['violations'], elementRef: false, selectors: false, preload: false};
    const seen = window.seenColours ??= new Set();
    const serious = (found, where) => found.flatMap(v => ['serious', 'critical'].includes(v.impact) ? v.nodes.map(n => `${where}${v.id}: ${n.html.slice(0, 160)}`) : []);
    // Letters of one size and colour over the same grounds have one contrast: what has been in sight so is not measured again.
    const fresh = () => {
        const found = new Map();
        for (const it of all.querySelectorAll('*')) {
            if (!it.matches('input, select, textarea') && ![...it.childNodes].some(n => n.nodeType === Node.TEXT_NODE && n.data.trim())) continue;
            if (!it.checkVisibility()) continue;
            const look = getComputedStyle(it), key = [look.color, look.fontSize, look.fontWeight];
            for (let at = it; at; at = at.parentElement) {
                const ground = getComputedStyle(at);
                key.push(ground.backgroundColor.replace('rgba(0, 0, 0, 0)', ''), ground.backgroundImage.replace('none', ''), ground.opacity.replace(/^1$/, ''));
            }
            const name = key.filter(Boolean).join(), box = it.getBoundingClientRect();
            const inSight = box.width > 0 && box.top >= 0 && box.left >= 0 && box.bottom <= innerHeight && box.right <= innerWidth;
            if (!seen.has(name)) found.set(it, inSight ? name : null);
        }
        return found;
    };
    const faint = async (measured, where) => {
        const there = [...measured.keys()].filter(it => it.isConnected);
        if (!there.length) return [];
        const found = (await axe.run({include: there}, {...options, runOnly: ['color-contrast']})).violations;
        if (!found.length) for (const name of measured.values()) if (name) seen.add(name);
        return serious(found, where);
    };
    const found = serious((await axe.run(all, {...options, rules: {'color-contrast': {enabled: false}}})).violations, '');
    found.push(...await faint(fresh(), ''));
    // Where dark brings nothing that has not been measured it is never drawn.
    theme.theme = 'dark';
    const measured = fresh();
    if (measured.size) {
        await new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)));
        found.push(...await faint(measured, 'dark: '));
    }
    theme.theme = 'paper';
    behind.style.display = '';
    return found;
}"""


def test_axe_finds_nothing_serious_on_any_main_view(page: Page) -> None:
    open_projects(page)
    findings = {"projects": serious(page)}
    page.get_by_role("button", name="New project").click()
    page.get_by_role("dialog").wait_for()
    findings["new project"] = serious(page)
    page.keyboard.press("Escape")
    page.get_by_role("link", name=re.compile(rf"^Open {DEMO} 16")).click()
    page.get_by_role("heading", name="Run sheet").wait_for()
    findings["desk"] = serious(page)
    page.keyboard.press("2")
    page.get_by_role("button", name="Move the closing view").wait_for()
    findings["views"] = serious(page, "#easel")
    page.keyboard.press("3")
    page.get_by_role("button", name="Move the camera, from above").wait_for()
    findings["plan"] = serious(page, "#easel")
    page.keyboard.press("1")
    page.get_by_role("radio", name="To time").click()
    page.get_by_role("slider", name="Boundary between scenes 1 and 2").wait_for()
    findings["run sheet to time"] = serious(page, "section[aria-label='Run sheet']")
    page.get_by_role("radio", name="Even").click()
    page.get_by_role("button", name=re.compile("^Join: ")).first.click()
    page.get_by_role("dialog").wait_for()
    findings["joins"] = serious(page)
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Scene 1 ")).press("End")
    page.get_by_role("button", name=re.compile("^Scene .*Through the night")).click()
    page.get_by_role("button", name=re.compile("^Keyframe of the scene, Camera focus")).first.wait_for()
    page.get_by_role("button", name=re.compile("^Curve of the scene, Camera focus")).click()
    page.get_by_role("button", name="Camera focus", exact=False).first.wait_for()
    findings["lanes"] = serious(page, "#lanes")
    part(page, "Motion").get_by_role("button", name="none, choose…").first.click()
    page.get_by_role("dialog").wait_for()
    findings["moves"] = serious(page)
    page.keyboard.press("Escape")
    for chapter in CHAPTERS:
        page.get_by_role("tab", name=chapter).click()
        findings[chapter] = serious(page, "#details")
    part(page, "Look")
    for name in ("Export…", "Keys", "Named versions", "Looks…", "Carry to…"):
        page.get_by_role("button", name=name).click()
        page.get_by_role("dialog").wait_for()
        findings[name] = serious(page)
        page.keyboard.press("Escape")
    for name, shown in (("title setting", "Title settings"), ("project details", "Project details")):
        found_command(page, name)
        page.get_by_role("dialog", name=shown).wait_for()
        findings[name] = serious(page)
        page.keyboard.press("Escape")
    page.get_by_role("link", name="Sound").click()
    page.get_by_role("list", name="Songs").get_by_role("button").first.wait_for()
    findings["sound"] = serious(page)
    page.get_by_role("link", name="Contact sheet").click()
    page.get_by_role("list", name="Pictures").get_by_role("button").first.wait_for()
    findings["contact sheet"] = serious(page)
    page.get_by_role("list", name="Pictures", exact=True).get_by_role("button").first.dblclick()
    findings["correct"] = serious(page)
    page.get_by_role("radio", name="Shape", exact=True).click()
    findings["shape"] = serious(page)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Trim borders").click()
    expect(page.get_by_role("dialog")).to_contain_text("have borders")
    findings["trim"] = serious(page)
    lines = [f"{view}: {finding}" for view, found in findings.items() for finding in found]
    assert not lines, "\n".join(lines)


def test_projects_are_renamed_copied_deleted_and_brought_back(page: Page) -> None:
    open_projects(page)
    # One of its own name: other tests have copies of the demo open meanwhile.
    name = "A light to copy"
    mine = call(page, "POST", "/api/projects", {"title": "x", "edits": [], "copy_of": demo(page)})["id"]
    base = call(page, "GET", f"/api/projects/{mine}")["revision"]
    call(page, "POST", f"/api/projects/{mine}/edits", {"base": base, "edits": [{"edit": "set_title", "title": name}]})
    page.reload()
    page.get_by_role("button", name=f"More for {name}", exact=True).click()
    page.get_by_role("menuitem", name="Make a copy").click()
    # The newest stands first.
    copy = page.get_by_role("button", name=f"More for {name} (copy)").first
    copy.click()
    page.get_by_role("menuitem", name="Rename").click()
    page.get_by_label("New title").fill("Second light")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="More for Second light").click()
    page.get_by_role("menuitem", name="Delete").click()
    expect(page.get_by_role("heading", name="Second light")).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(page.get_by_role("heading", name="Second light")).to_be_visible()


def test_a_second_window_takes_over_changes_and_undo_outlives_a_reload(page: Page, context: BrowserContext) -> None:
    copy_of_demo(page)
    other = context.new_page()
    other.goto(page.url)
    other.get_by_role("heading", name="Run sheet").wait_for()
    name = other.get_by_label("Name of the scene")
    name.fill("Nine ridges")
    name.press("Enter")
    expect(page.get_by_label("Name of the scene")).to_have_value("Nine ridges", timeout=12000)
    page.reload()
    page.get_by_role("button", name="Undo: Change scenes").click()
    expect(page.get_by_label("Name of the scene")).to_have_value("Ridge behind ridge")


def test_several_scenes_change_together_and_come_back_together(page: Page) -> None:
    copy_of_demo(page)
    rows = page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile("^Scene "))
    sheet = page.get_by_role("region", name="Run sheet")
    expect(sheet).to_contain_text("25 scenes")
    before = rows.nth(1).text_content() or ""
    rows.nth(1).click()
    rows.nth(3).click(modifiers=["Shift"])
    expect(page.get_by_role("complementary", name="Details")).to_contain_text("3 scenes")
    hold = part(page, "Scene").get_by_label("Hold, number")
    hold.fill("4s")
    hold.press("Enter")
    for i in (1, 2, 3):
        expect(rows.nth(i)).to_contain_text("4.0s")
    page.keyboard.press("Escape")
    rows.nth(3).focus()
    page.keyboard.press("Control+d")
    expect(sheet).to_contain_text("28 scenes")
    page.keyboard.press("Delete")
    expect(sheet).to_contain_text("25 scenes")
    for _ in range(3):
        page.keyboard.press("Control+z")
    expect(rows.nth(1)).to_have_text(before)


def test_the_contact_sheet_orders_chooses_and_fills_the_film(page: Page, tmp_path: Path) -> None:
    open_projects(page)
    page.get_by_role("button", name="New project").first.click()
    page.get_by_role("button", name="Create the project").click()
    expect(page.get_by_text("Drop photographs or a whole folder here")).to_be_visible()
    page.get_by_role("link", name="Desk").click()
    expect(page.get_by_text("The film has no scene yet")).to_be_visible()
    page.get_by_role("link", name="Go to the contact sheet").click()
    photos = sorted((ROOT / "demo" / "photos").glob("*.jpg"))[:5]
    give(page.get_by_role("button", name="Add pictures").first, list(reversed(photos)))
    tiles = page.get_by_role("list", name="Pictures").get_by_role("button")
    expect(tiles).to_have_count(5)
    expect(tiles.first).to_contain_text(photos[4].stem[:10])
    page.get_by_role("button", name="Order", exact=True).click()
    page.get_by_role("menuitem", name="By name").click()
    expect(tiles.first).to_contain_text(photos[0].stem[:10])
    tiles.nth(0).click()
    page.keyboard.press("Alt+ArrowRight")
    expect(tiles.nth(1)).to_contain_text(photos[0].stem[:10])
    tiles.nth(2).click()
    tiles.nth(4).click(modifiers=["Shift"])
    page.get_by_role("button", name="Put 3 into the film").click()
    expect(page.get_by_role("button", name="Go to the desk")).to_be_visible()
    page.get_by_label("Which pictures to show").select_option("unused")
    expect(tiles).to_have_count(2)
    # The worker prepares them all.
    until(
        lambda: all(p["state"] == "ready" for p in call(page, "GET", f"/api/projects/{project_id(page)}/state")["pictures"]), 60, "prepared"
    )
    page.get_by_role("button", name="Go to the desk").click()
    expect(page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile("^Scene "))).to_have_count(3)


def test_a_late_change_of_shape_breaks_nothing(page: Page) -> None:
    copy_of_demo(page)
    page.get_by_title("Frame and project defaults").click()
    page.get_by_role("button", name="Change the frame…").click()
    page.get_by_role("dialog").get_by_role("button", name="9:16").click()
    # Every scene is seen in the new frame before it is accepted.
    scenes = page.get_by_role("list", name="Scenes in the new frame")
    until(lambda: scenes.get_by_role("img").first.evaluate("i => i.naturalHeight > i.naturalWidth"), 20, "a scene in the tall frame")
    page.get_by_role("button", name="Accept the new frame").click()
    canvas = page.get_by_role("img", name="The film at the playhead")
    until(lambda: canvas.evaluate("c => c.height > c.width"), 20, "a tall frame")
    page.get_by_role("button", name="Undo: Change the frame").click()
    until(lambda: canvas.evaluate("c => c.height < c.width"), 20, "the wide frame again")


def test_a_lost_address_and_a_stranger_get_a_sentence(page: Page, running: Running, context: BrowserContext) -> None:
    page.goto(f"{running.origin}/projects/none")
    expect(page.get_by_text("There is no such project.")).to_be_visible()
    browser = context.browser
    assert browser
    stranger = browser.new_page()
    stranger.goto(f"{running.origin}/")
    expect(stranger.get_by_text("Open the address that ./oak start printed")).to_be_visible()
    stranger.close()


def test_a_page_whose_script_does_not_come_says_so_and_is_asked_for_again(page: Page) -> None:
    open_projects(page)
    scripts = re.compile(r"/assets/desk-\w+\.js$")
    page.route(scripts, lambda route: route.abort())
    page.get_by_role("link", name=re.compile(rf"^Open {DEMO} 16")).click()
    expect(page.get_by_role("alert")).to_contain_text("could not be loaded")
    page.unroute(scripts)
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="Run sheet")).to_be_visible()
