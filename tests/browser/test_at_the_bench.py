"""One step as large as the screen: by one key, by a tap, said aloud, and the screen kept awake."""

from playwright.sync_api import expect

# The browser's own voice and lock are not there without a screen and loudspeakers: what is asked of them is kept.
STAND_INS = """
  window.said = []; window.awake = 0
  Object.defineProperty(navigator, 'wakeLock', { value: { request: async () => {
    window.awake += 1
    return { released: false, addEventListener() {}, removeEventListener() {},
      release: async () => { window.awake -= 1 } }
  } } })
  const speak = (one) => window.said.push(one.text)
  const voice = { speak, cancel() {}, pause() {}, resume() {}, getVoices: () => [] }
  Object.defineProperty(window, 'speechSynthesis', { value: voice })
"""


def opened(conversion, **screen):
    page = conversion("Pond thermometer", "Build", **screen)
    page.add_init_script(STAND_INS)
    page.reload()
    page.get_by_role("button", name="Large, for the bench").click()
    return page, page.get_by_role("dialog")


def test_steps_are_done_by_one_key_and_a_checkpoint_by_its_reading(conversion, serious):
    page, bench = opened(conversion)
    expect(bench).to_contain_text("Step 1 of")
    assert serious(page) == []
    assert page.evaluate("window.awake") == 1
    page.wait_for_timeout(700)  # a key that is still held from before counts for nothing
    page.keyboard.press(" ")
    expect(bench).to_contain_text("Step 2 of")
    page.wait_for_timeout(700)
    page.keyboard.press("Enter")
    # Here a meter is to be read: nothing goes on without it, and the keys go to the field.
    expect(bench).to_contain_text("Measure what it draws")
    page.wait_for_timeout(700)
    page.keyboard.press("Enter")
    expect(bench).to_contain_text("Step 3 of")
    field = bench.get_by_role("textbox")
    expect(field).to_be_focused()
    field.fill("about fifty")
    page.keyboard.press("Enter")
    expect(bench.get_by_role("alert")).to_be_visible()
    field.fill("45")
    page.keyboard.press("Enter")
    expect(bench).to_contain_text("Step 4 of")
    page.keyboard.press("Escape")
    expect(bench).to_have_count(0)
    page.wait_for_function("window.awake === 0")
    done = page.get_by_role("list", name="All steps").locator("button.done")
    expect(done).to_have_count(3)


def test_a_tap_anywhere_is_enough_and_two_in_a_hurry_are_one(conversion):
    page, bench = opened(conversion, width=390, height=844)
    expect(bench).to_contain_text("Step 1 of")
    page.wait_for_timeout(700)
    page.mouse.click(200, 420)
    expect(bench).to_contain_text("Step 2 of")
    page.mouse.click(200, 420)
    expect(bench).to_contain_text("Step 2 of")
    assert page.evaluate("document.querySelector('dialog').scrollWidth <= innerWidth")
    bench.get_by_role("button", name="Back").click()
    expect(bench).to_contain_text("Step 1 of")


def test_it_says_aloud_what_it_waits_for_once_it_is_asked_to(conversion):
    page, bench = opened(conversion)
    expect(bench).to_contain_text("Step 1 of")
    assert page.evaluate("window.said") == []
    bench.get_by_label("Say it aloud").check()
    title = bench.get_by_role("heading").inner_text()
    page.wait_for_function("window.said.length === 1")
    assert page.evaluate("window.said[0]").startswith(title)
    page.wait_for_timeout(700)
    page.mouse.click(200, 420)
    expect(bench).to_contain_text("Step 2 of")
    page.wait_for_function("window.said.length === 2")
    page.reload()
    page.get_by_role("button", name="Large, for the bench").click()
    expect(bench.get_by_label("Say it aloud")).to_be_checked()
