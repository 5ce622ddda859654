"""Wire, Build and Prove on the real page: a miswiring caught, a checkpoint that holds, a log read and learnt from."""

import re

import numpy as np
from picking import choose, picked
from PIL import Image
from playwright.sync_api import expect
from progress import saved

from pocketspark.instruments import Bench, Meter, discharge_log


def findings(page):
    return page.get_by_role("region", name="Findings")


def test_a_miswiring_is_caught_and_undone(conversion):
    page = conversion("Moth-trap lamp", "Wire")
    page.get_by_role("button", name="pad cell.-").press("Enter")
    page.get_by_role("button", name="pad gadget.-").press("Enter")
    expect(findings(page)).to_contain_text("The protection is bypassed")
    page.get_by_role("button", name="Wire it as the tool does").first.click()
    expect(findings(page)).not_to_contain_text("The protection is bypassed")
    with page.expect_download() as download:
        page.get_by_role("button", name="Running, netlist").click()
    assert download.value.suggested_filename == "moth-trap-lamp-running.cir"
    page.get_by_role("link", name="Sheet").click()
    expect(page.get_by_role("region", name="Hook-up", exact=True)).to_contain_text("charger OUT+")
    with page.expect_download() as download:
        page.get_by_role("button", name="PDF, A4").click()
    assert download.value.suggested_filename == "moth-trap-lamp-sheet.pdf"
    assert download.value.path().read_bytes().startswith(b"%PDF")


def test_the_wiring_is_seen_as_it_lies(conversion):
    page = conversion("Moth-trap lamp", "Wire")
    page.get_by_text("as it lies", exact=True).click()
    lies = page.get_by_role("img", name="The wiring as it lies in the bay, from above")
    for text in ("A", "B", "C", "D", "OUT+", "B-"):
        expect(lies.get_by_text(text, exact=True).first).to_be_visible()
    page.get_by_text("pulled apart").click()
    expect(page.get_by_role("group", name="Hook-up")).to_be_visible()


def test_a_checkpoint_holds_and_progress_survives_a_reload(conversion):
    page = conversion("Bat-call detector", "Build")
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_role("heading", name=re.compile("Prove that it works"))).to_be_visible()
    page.get_by_role("button", name=re.compile("Set the charge-current resistor")).click()
    reads = page.get_by_label(re.compile("resistance at the PROG pin"))
    reads.fill("1.2")
    page.get_by_role("button", name="Check it against the limits").click()
    expect(page.get_by_text(re.compile("Outside its limits. Most likely: a cell or USB"))).to_be_visible()
    expect(page.get_by_text("This one has no way round")).to_be_visible()
    reads.fill("3")
    page.get_by_role("button", name="Check it against the limits").click()
    expect(page.get_by_role("heading", name="Prove the charger board alone on USB")).to_be_visible()
    page.get_by_label("What happened").fill("second board fitted, the first was dead")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text("second board fitted, the first was dead")).to_be_visible()
    saved(page)
    page.reload()
    expect(page.get_by_text(re.compile(r"^2 of \d+ done"))).to_be_visible()
    expect(page.get_by_text("second board fitted, the first was dead")).to_be_visible()


def test_a_log_is_read_and_what_it_teaches_adopted(conversion):
    page = conversion("Bat-call detector", "Prove")
    page.get_by_role("button", name="Practise on a copy").click()
    page.get_by_role("button", name="All at once").click()
    expect(page.get_by_role("img", name="Measured over predicted")).to_be_visible()
    expect(page.get_by_text("Nothing out of the ordinary.")).to_be_visible()
    learn = page.get_by_role("region", name="What to learn").get_by_role("listitem")
    for what in ("capacity", "charge current"):
        line = learn.filter(has_text=what)
        line.get_by_role("button", name="Take it as measured").click()
        expect(line).to_contain_text("taken")
    expect(page.get_by_text(re.compile("adopted capacity .*, from simulated-cell-meters.csv"))).to_be_visible()
    saved(page)
    page.reload()
    before = page.get_by_role("region", name="Prediction before").get_by_role("row")
    expect(before).to_have_count(1 + 2 + 1)  # a head, what was predicted before each, and what is now
    expect(before.nth(1)).to_contain_text("until capacity")
    expect(before.nth(3)).to_contain_text("now")


def test_columns_put_right_are_remembered_for_the_next_log(conversion, tmp_path):
    page = conversion("Bat-call detector", "Prove")
    rows = "\n".join(f"{t},{3.6 + t / 36000},{0.4},{9.9}" for t in range(0, 7200, 60))
    file = tmp_path / "odd-meter.csv"
    file.write_text(f"time,voltage,current,aux\n{rows}\n")
    page.get_by_label("Log file").set_input_files(file)
    expect(picked(page, "Column of degrees")).to_contain_text("none")
    choose(page, "Column of degrees", "aux")
    expect(picked(page, "Column of degrees")).to_contain_text("aux")
    page.reload()
    page.get_by_label("Log file").set_input_files(file)
    expect(picked(page, "Column of degrees")).to_contain_text("aux")


def test_a_reading_that_cannot_be_is_told_on_its_own_line(conversion):
    page = conversion("Bat-call detector", "Prove")
    watch = page.get_by_role("region", name="First charge")
    watch.get_by_role("button", name="It is plugged in: start the clock").click()
    for volts, amps in (("3.9", "plenty"), ("4.0", "400"), ("9999", "400")):
        watch.get_by_label("Volts read").fill(volts)
        watch.get_by_label("Current read").fill(amps)
        watch.get_by_role("button", name="Note it").click()
    lines = watch.get_by_role("listitem")
    expect(lines).to_have_count(3)
    expect(lines.nth(0).get_by_role("alert")).to_contain_text("volts: ")  # newest first
    expect(lines.nth(1).get_by_role("alert")).to_have_count(0)
    expect(lines.nth(2).get_by_role("alert")).to_contain_text("amps: ")
    lines.nth(0).get_by_role("button").click()
    expect(lines).to_have_count(2)


def test_a_live_run_raises_its_alarm_and_survives_a_reload(conversion):
    page = conversion("Bat-call detector", "Prove")
    page.get_by_role("button", name="Practise on a copy").click()
    choose(page, "Fault on the simulated bench", "a cell that gets too warm")
    choose(page, "Pace", "two hours in a second")
    page.get_by_role("button", name="Run it live").click()
    bench = page.get_by_role("region", name="Simulated bench")
    expect(bench.get_by_role("alert")).to_contain_text("over its limit of 45 °C. Unplug")
    expect(page).to_have_title(re.compile("^UNPLUG"))
    bench.get_by_role("button", name="Mute").click()
    page.reload()
    expect(bench.get_by_role("alert")).to_contain_text("over its limit of 45 °C. Unplug")
    expect(bench.get_by_role("button", name="Sound on")).to_be_visible()
    bench.get_by_role("button", name="Read this log").click()
    expect(page.get_by_role("region", name="What it shows")).to_contain_text("while charging, over 45 °C")
    bench.get_by_role("button", name="Clear the bench").click()
    expect(bench.get_by_role("alert")).to_have_count(0)
    expect(page).to_have_title(re.compile("^Bat-call"))


def test_an_alarm_is_a_notification_where_the_browser_allows_it(conversion):
    page = conversion("Bat-call detector", "Prove")
    page.context.grant_permissions(["notifications"])
    page.add_init_script(
        "window.notified = []; window.Notification = class { static permission = 'granted';"
        "constructor(title, how) { window.notified.push([title, how.body]) } close() {} }"
    )
    page.reload()
    page.get_by_role("button", name="Practise on a copy").click()
    choose(page, "Fault on the simulated bench", "a cell that gets too warm")
    choose(page, "Pace", "two hours in a second")
    page.get_by_role("button", name="Run it live").click()
    expect(page.get_by_role("region", name="Simulated bench").get_by_role("alert")).to_contain_text("Unplug")
    title, body = page.evaluate("window.notified")[0]
    assert title == "UNPLUG"
    assert "over its limit of 45 °C" in body


def test_a_run_without_alarms_is_read_when_it_ends_and_may_be_stopped(conversion):
    page = conversion("Bat-call detector", "Prove")
    page.get_by_role("button", name="Practise on a copy").click()
    choose(page, "Instrument", "Bench load")
    choose(page, "Pace", "a minute in a second")
    page.get_by_role("button", name="Run it live").click()
    page.get_by_role("button", name="Stop", exact=True).click()
    bench = page.get_by_role("region", name="Simulated bench")
    expect(bench.get_by_role("alert")).to_contain_text("a log needs at least 5")
    choose(page, "Pace", "two hours in a second")
    page.get_by_role("button", name="Run it live").click()
    expect(bench.get_by_role("status")).to_contain_text(re.compile(r"\d h"))
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_text("the run has ended")).to_be_visible()
    expect(page.get_by_role("img", name="Measured over predicted")).to_be_visible()


def test_the_first_charge_is_attended_and_its_rest_survives_a_reload(conversion):
    page = conversion("Bat-call detector", "Prove")
    watch = page.get_by_role("region", name="First charge")
    watch.get_by_role("button", name="It is plugged in: start the clock").click()
    watch.get_by_label("Current read").fill("400")
    watch.get_by_role("button", name="Note it").click()
    expect(watch).to_contain_text("400 mA")
    expect(watch.get_by_role("alert")).to_have_count(0)
    watch.get_by_label("Degrees read").fill("52")
    watch.get_by_label("Degrees read").press("Enter")
    expect(watch.get_by_role("alert")).to_contain_text("52 °C")
    watch.get_by_role("button", name="Strike out reading 2").click()
    expect(watch.get_by_role("alert")).to_have_count(0)
    watch.get_by_role("button", name="It has ended").click()
    saved(page)
    page.reload()
    expect(watch).to_contain_text("to go")
    watch.get_by_label("Right after the end").fill("4.19")
    watch.get_by_label("After the hour").fill("4.1")
    expect(watch).to_contain_text("It lost 90 mV in the hour, over the limit of 50 mV")


def test_a_corrected_column_is_remembered(conversion):
    page = conversion("Bat-call detector", "Prove")
    rows = "\n".join(f"{i * 10};{3.6 + i / 200};{0.4};{3.7}" for i in range(60))
    file = {"name": "odd.csv", "mimeType": "text/csv", "buffer": f"time;volts;amps;other volts\n{rows}".encode()}
    page.get_by_label("Log file").set_input_files(file)
    columns = page.get_by_role("region", name="What to learn")
    expect(picked(columns, "Column of volts")).to_contain_text("volts")
    choose(columns, "Column of volts", "other volts")
    expect(page.get_by_role("region", name="What it shows")).to_contain_text("3.70 V to 3.70 V")
    page.reload()
    page.get_by_label("Log file").set_input_files(file)
    expect(picked(columns, "Column of volts")).to_contain_text("other volts")


def test_the_logbook_opens_from_every_station_with_a_photograph(conversion, tmp_path):
    page = conversion("Moth-trap lamp", "Power")
    page.locator("h1").click()
    page.keyboard.press("b")
    book = page.get_by_role("dialog", name="Logbook")
    choose(book, "Kind of entry", "Change of plan")
    book.get_by_label("What happened").fill("another diode, the first drops too much")
    Image.new("RGB", (80, 60), "teal").save(tmp_path / "diode.png")
    book.get_by_label("Photograph for the logbook").set_input_files(tmp_path / "diode.png")
    expect(book.get_by_role("img", name="another diode, the first drops too much")).to_be_visible()
    saved(page)


def test_a_step_keeps_its_photograph(conversion, tmp_path):
    page, at_the_desk = conversion("Moth-trap lamp", "Build"), conversion("Moth-trap lamp", "Survey")
    Image.new("RGB", (80, 60), "teal").save(tmp_path / "before.png")
    page.get_by_label("Photograph of this step").set_input_files(tmp_path / "before.png")
    expect(page.get_by_role("img", name="before")).to_be_visible()
    saved(page)
    # It comes to the page that is open elsewhere, among the photographs.
    expect(at_the_desk.get_by_label("Photographs", exact=True).get_by_role("img", name="before")).to_be_visible()
    page.reload()
    expect(page.get_by_role("img", name="before")).to_be_visible()


def test_a_faulty_bench_is_found_out(open_page):
    page = open_page("/trainer")
    page.get_by_role("button", name="Bench 2").click()
    page.get_by_role("button", name=re.compile("Ohms from the PROG pin")).click()
    expect(page.get_by_role("table", name="Readings")).to_contain_text("kΩ")
    page.reload()
    expect(page.get_by_role("table", name="Readings")).to_contain_text("kΩ")
    choose(page, "What is wrong", "Another charge-current resistor")
    page.get_by_role("button", name="That is it").click()
    expect(page.get_by_role("status")).to_contain_text("10 of 10")
    expect(page.get_by_role("status")).to_contain_text("I = K / R")
    page.get_by_role("button", name="Bench 6").click()
    choose(page, "What is wrong", "draws while switched off")
    page.get_by_role("button", name="That is it").click()
    expect(page.get_by_role("status")).to_contain_text("It was something else: the cell's plug")
    expect(page.get_by_text("10 of 60 points so far")).to_be_visible()


def test_a_file_that_is_no_log_gets_a_sentence(conversion):
    page = conversion("Moth-trap lamp", "Prove")
    page.get_by_label("Log file").set_input_files({"name": "x.csv", "mimeType": "text/csv", "buffer": b"hello"})
    expect(page.get_by_role("alert").first).to_contain_text("no line of figures")


def test_rows_added_and_a_figure_typed_at_once_lose_nothing(conversion):
    page = conversion("Bat-call detector", "Prove")
    watch = page.get_by_role("region", name="First charge")
    watch.get_by_role("button", name="It is plugged in: start the clock").click()
    # The core takes its time over each row, while the maker goes on.
    page.route("**/api/questions/edited", lambda route: (page.wait_for_timeout(300), route.continue_()))
    for volts in ("3.7", "3.8", "3.9"):
        watch.get_by_label("Volts read").fill(volts)
        watch.get_by_label("Volts read").press("Enter")
    expect(watch.get_by_role("listitem")).to_have_count(3)
    saved(page)
    page.reload()
    expect(watch.get_by_role("listitem")).to_have_count(3)


def test_a_real_build_has_no_simulated_meter_and_a_stop_keeps_its_case_shut(conversion):
    page = conversion("Moth-trap lamp", "Build")
    steps = page.get_by_role("list", name="All steps")
    steps.get_by_role("button").filter(has_text="Measure what it draws").click()
    expect(page.get_by_role("button", name="Check it against the limits")).to_be_visible()
    expect(page.get_by_role("button", name="Read it with the simulated meter")).to_have_count(0)


def test_a_stop_keeps_the_case_shut_until_a_reason_is_given(conversion):
    page = conversion("Pond thermometer", "Build")
    lock = page.get_by_role("region", name="Why the case stays shut")
    expect(lock).to_be_visible()
    steps = page.get_by_role("list", name="All steps").get_by_role("button")
    steps.last.click()
    expect(page.get_by_role("button", name="Locked: something stops this build")).to_be_disabled()
    lock.get_by_label("Reason to build in spite of a stop").fill("a test rig, in a sand box")
    lock.get_by_role("button", name="Unlock the steps").click()
    expect(lock).to_have_count(0)
    saved(page)
    page.reload()
    steps.last.click()
    expect(page.get_by_role("button", name="Check it against the limits")).to_be_enabled()


def test_figures_that_no_cell_has_are_asked_about_before_anything_is_judged(conversion, tmp_path):
    page = conversion("Bat-call detector", "Prove")
    rows = "\n".join(f"{t};{3600 + t / 36};{400}" for t in range(0, 7200, 60))
    file = tmp_path / "milli.csv"
    file.write_bytes(f"Zeit;Spannung;Strom\n{rows}\n".encode("utf-16"))
    page.get_by_label("Log file").set_input_files(file)
    asked = page.get_by_role("region", name="To be settled first")
    expect(asked).to_contain_text("No small cell has")
    expect(page.get_by_role("region", name="What it shows")).to_have_count(0)
    asked.get_by_role("button", name="It is in millivolts").click()
    asked.get_by_role("button", name="It is in milliamperes").click()
    expect(page.get_by_role("region", name="What it shows")).to_be_visible()
    expect(asked).to_have_count(0)


def test_a_log_that_differs_is_explained_by_causes_that_were_tried(conversion, tmp_path):
    """A cell that holds half: found, told with what it would do, taken over and taken back."""
    log = discharge_log(Bench(capacity_ah=0.45, r_ohm=0.12), Meter(seed=3, gain_off=0.0), 0.065)
    file = tmp_path / "half.csv"
    rows = zip(log.time_s, log.volts, np.abs(log.amps), strict=True)
    file.write_text("time,volts,amps\n" + "".join(f"{t:.0f},{v:.3f},{a:.4f}\n" for t, v, a in rows))
    page = conversion("Bat-call detector", "Prove")
    page.get_by_label("Log file").set_input_files(file)
    told = page.get_by_role("region", name="What could explain it")
    told.get_by_role("button", name="What could explain it?").click()
    best = told.get_by_role("listitem").first
    expect(best).to_contain_text(re.compile(r"The cell holds 4\d\d mAh, not 900 mAh"))
    expect(best).to_contain_text("With it: ")
    expect(best).to_contain_text("To decide: A run-down from full")
    best.get_by_role("button", name="Take it over").click()
    expect(page.get_by_text("adopted The cell holds")).to_be_visible()
    expect(told.get_by_role("listitem")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("adopted The cell holds")).to_have_count(0)
