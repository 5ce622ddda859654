"""The maker's own parts and photographs: kept, judged, refused in sentences."""

import io
import itertools
from concurrent.futures import ThreadPoolExecutor

import pytest
from PIL import Image

from builders import CELL, plan
from pocketspark.formats import photograph

USED = CELL | {"name": "From a dead bat logger", "origin": "salvaged", "intake": {"rest_v": 3.75}}


def keep(client, kind, body, stock=1):
    answer = client.post("/api/inventory", json={"kind": kind, "stock": stock, "body": body})
    assert answer.status_code == 201, answer.text
    return answer.json()


def jpeg(width=60, height=40, **options):
    out = io.BytesIO()
    picture = Image.new("RGB", (width, height), "white")
    picture.putpixel((0, 0), (0, 0, 0))
    picture.save(out, "JPEG", quality=95, **options)
    return out.getvalue()


@pytest.fixture
def project(client):
    return client.post("/api/projects", json=plan().model_dump(mode="json")).json()


# Inventory ---------------------------------------------------------------------------------------------------------


def test_a_cell_is_kept_with_its_grade_and_its_next_step(client):
    kept = keep(client, "cell", USED, stock=2)
    assert kept["grade"]["word"] == "untested"
    assert kept["grade"]["next_step"]
    changed = USED | {"intake": {"rest_v": 1.2}}
    answer = client.put(f"/api/inventory/{kept['id']}", json={"kind": "cell", "stock": 1, "body": changed})
    assert answer.json()["grade"]["word"] == "recycle"
    assert [part["id"] for part in client.get("/api/inventory").json()] == [kept["id"]]


def test_a_cell_writes_its_own_history(client):
    kept = keep(client, "cell", USED)
    address = f"/api/inventory/{kept['id']}"
    readings = {"rest_v": 3.71, "loads": [{"current_a": 0.1, "volts": 3.7}, {"current_a": 0.5, "volts": 3.62}]}
    measured = kept["cell"] | {"measured_capacity_ah": 0.75, "intake": readings}
    told = client.put(address, json={"kind": "cell", "body": measured}).json()["cell"]["intake"]["history"]
    assert [line["text"] for line in told] == [
        "capacity 750 mAh",
        "at rest 3.71 V, was 3.75 V",
        "under load 3.70 V at 100 mA; 3.62 V at 500 mA",
    ]
    assert len({line["day"] for line in told}) == 1
    # What did not change is not told again, and nothing told is lost.
    again = client.get("/api/inventory").json()[0]["cell"] | {"price": 2.0}
    assert client.put(address, json={"kind": "cell", "body": again}).json()["cell"]["intake"]["history"] == told


def test_a_board_keeps_what_was_measured_on_it(client):
    rows = [{"r_ohm": "3k", "current_a": "390 mA"}, {"r_ohm": "10 kΩ", "current_a": "118mA"}]
    kept = keep(client, "charger", {"name": "mine", "charger": {"r_table": rows}})
    assert kept["board"]["charger"]["r_table"][1] == {
        "id": "reading2",
        "r_ohm": 10_000,
        "current_a": pytest.approx(0.118),
    }
    upside_down = {"name": "mine", "charger": {"r_table": rows[::-1]}}
    refused = client.post("/api/inventory", json={"kind": "charger", "body": upside_down})
    assert refused.json()["errors"][0]["sentence"].endswith("ohms rising, amps falling")


def test_a_part_in_use_is_not_deleted_and_says_where(client):
    kept = keep(client, "cell", USED)
    body = plan(cell=USED | {"inventory_id": kept["id"]}).model_dump(mode="json")
    made = client.post("/api/projects", json=body).json()
    refused = client.delete(f"/api/inventory/{kept['id']}")
    assert refused.status_code == 409
    assert "Moth-trap lamp" in refused.json()["detail"]
    assert client.get("/api/inventory").json()[0]["used_by"] == ["Moth-trap lamp"]
    client.delete(f"/api/projects/{made['id']}")
    assert client.delete(f"/api/inventory/{kept['id']}").status_code == 204


@pytest.mark.parametrize(
    ("kind", "body", "field"),
    [
        ("cell", {"capacity_ah": "plenty"}, "capacity_ah"),
        ("charger", {"name": "no charger on it"}, "charger"),
        ("resistor", {"r_ohm": 3}, "r_ohm"),
        ("regulator", {"regulator": {"kind": "ldo"}}, "regulator"),
    ],
)
def test_a_part_that_is_not_what_it_says_is_refused_at_its_field(client, kind, body, field):
    refused = client.post("/api/inventory", json={"kind": kind, "body": body})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["field"].startswith(field)


def test_a_part_keeps_its_kind(client):
    kept = keep(client, "resistor", {"r_ohm": "3k"})
    refused = client.put(f"/api/inventory/{kept['id']}", json={"kind": "cell", "body": USED})
    assert refused.status_code == 422
    assert client.put("/api/inventory/999", json={"kind": "cell", "body": USED}).status_code == 404


def test_cells_of_the_drawer_are_matched(client):
    for volts in (3.80, 3.82, 3.95):
        keep(client, "cell", USED | {"measured_capacity_ah": 0.8, "intake": {"rest_v": volts}})
    found = client.get("/api/inventory/matches").json()
    assert len(found) == 3
    assert found[0]["match"]["spoilers"] == []
    assert found[0]["match"]["joining_a"] > 0
    assert found[-1]["match"]["spoilers"]


def test_a_cell_is_graded_before_it_is_kept(client):
    assert client.post("/api/inventory/grade", json=USED | {"intake": {"damage": ["dent"]}}).json()["word"] == "recycle"


def test_own_resistors_are_tried_for_the_program_resistor(client):
    for ohm in ("2k2", "1k", "10k"):
        keep(client, "resistor", {"r_ohm": ohm, "tolerance": 0.01})
    question = {"document": plan().model_dump(mode="json")}
    found = client.post("/api/questions/resistors", json=question).json()
    assert found[0]["how"] == "series"
    assert found[0]["r_ohm"]["value"] == pytest.approx(3200)
    assert all(choice["most_a"]["value"] <= 0.4501 for choice in found)


def test_own_cells_and_regulators_are_among_the_candidates(client):
    cell = keep(client, "cell", USED)
    keep(client, "regulator", {"name": "my own step-up", "regulator": {"kind": "boost", "v_set": 5}})
    question = {"document": plan().model_dump(mode="json")}
    parts = [one["part"] for one in client.post("/api/questions/candidates", json=question).json()]
    assert f"inventory-{cell['id']}" in parts
    assert "my own step-up" in [one["name"] for one in client.post("/api/questions/regulators", json=question).json()]


# Questions ------------------------------------------------------------------------------------------------------


def test_outlook_comparison_and_size_codes(client):
    one = plan().model_dump(mode="json")
    assert len(client.post("/api/questions/scenarios", json={"document": one}).json()["uses"]) == 5
    two = one | {"builds": [one["builds"][0], one["builds"][0] | {"name": "other"}]}
    seen = client.post("/api/questions/compare", json={"document": two, "builds": [0, 1]}).json()
    assert [side["name"] for side in seen["sides"]] == ["First build", "other"]
    assert client.post("/api/questions/compare", json={"document": one, "builds": [0, 4]}).status_code == 404
    assert client.post("/api/questions/compare", json={"document": one, "builds": [0]}).status_code == 422
    assert client.get("/api/questions/size-code", params={"code": "503759"}).json()[0]["size_mm"] == [5.0, 37.0, 59.0]
    refused = client.get("/api/questions/size-code", params={"code": "what"})
    assert (refused.status_code, "503759" in refused.json()["detail"]) == (422, True)


# Photographs ----------------------------------------------------------------------------------------------------


def test_a_photograph_loses_its_camera_notes_and_stands_upright(client, project):
    exif = Image.Exif()
    exif[0x010F] = "a maker"
    exif[0x0112] = 6  # turned a quarter
    answer = client.post(f"/api/projects/{project['id']}/photos?caption=inside", content=jpeg(exif=exif))
    assert answer.status_code == 201
    kept = answer.json()
    assert (kept["width"], kept["height"], kept["caption"]) == (40, 60, "inside")
    pixels = client.get(f"/api/projects/{project['id']}/photos/{kept['id']}/picture").content
    assert b"a maker" not in pixels
    assert not Image.open(io.BytesIO(pixels)).getexif()
    small = client.get(f"/api/projects/{project['id']}/photos/{kept['id']}/thumbnail")
    assert small.headers["content-type"] == "image/jpeg"


def test_what_is_no_picture_or_too_large_is_refused(client, project, monkeypatch):
    at = f"/api/projects/{project['id']}/photos"
    assert "no JPEG" in client.post(at, content=b"GIF89a").json()["detail"]
    assert client.post(at, content=b"").status_code == 422
    monkeypatch.setattr(photograph, "LARGEST_PIXELS", 100)
    assert "pixels" in client.post(at, content=jpeg()).json()["detail"]
    monkeypatch.setattr(photograph, "LARGEST_BYTES", 100)
    too_large = client.post(at, content=jpeg())
    assert (too_large.status_code, "too large" in too_large.json()["detail"]) == (413, True)
    assert client.get(at).json() == []
    monkeypatch.undo()
    assert client.post("/api/projects/999/photos", content=jpeg()).status_code == 404


def picture_of(kind, width, height):
    made = io.BytesIO()
    Image.new("RGB", (width, height), "teal").save(made, kind)
    return made.getvalue()


def test_no_more_is_unpacked_than_there_is_room_for_and_one_at_a_time(monkeypatch):
    monkeypatch.setattr(photograph, "DECODED_PIXELS", 6_000_000)
    with pytest.raises(photograph.UnreadablePhotograph, match="too many pixels"):
        photograph.read_picture(picture_of("PNG", 3000, 2100))
    large, small = picture_of("JPEG", 5000, 4000), picture_of("PNG", 2400, 1800)  # 20 million, read as a quarter
    assert photograph.read_picture(large).width == 2000
    at_once, most = [], []
    stored = photograph._stored

    def watched(image):
        at_once.append(1)
        most.append(len(at_once))
        made = stored(image)
        at_once.pop()
        return made

    monkeypatch.setattr(photograph, "_stored", watched)
    with ThreadPoolExecutor(4) as threads:
        assert len(list(threads.map(photograph.read_picture, [small] * 8))) == 8
    assert most == [1] * 8


def line(x0, y0, x1, y1):
    return {"start": {"x": x0, "y": y0}, "end": {"x": x1, "y": y1}}


def test_lengths_are_read_off_a_known_one_and_turn_with_the_picture(client, project):
    at = f"/api/projects/{project['id']}/photos"
    kept = client.post(at, content=jpeg(600, 400)).json()
    marks = {
        "scale": {"line": line(0, 0, 0.5, 0), "mm": 50},  # 300 px are 50 mm
        "lengths": [{"name": "bay", "line": line(0, 0, 0, 0.75)}],  # 300 px too
        "remarks": [{"at": {"x": 0.1, "y": 0.2}, "text": "plus"}],
    }
    marked = client.put(f"{at}/{kept['id']}", json={"caption": "bay", "marks": marks}).json()
    assert marked["lengths"][0]["mm"] == pytest.approx(50)
    assert 0 < marked["lengths"][0]["give_or_take_mm"] < 1.5
    turned = client.post(f"{at}/{kept['id']}/turn").json()
    assert (turned["width"], turned["height"]) == (400, 600)
    assert turned["lengths"][0]["mm"] == pytest.approx(50)
    assert turned["marks"]["remarks"][0]["at"] == {"x": pytest.approx(0.8), "y": pytest.approx(0.1)}
    short = marks | {"scale": {"line": line(0, 0, 0.001, 0), "mm": 50}}
    assert client.put(f"{at}/{kept['id']}", json={"caption": "bay", "marks": short}).status_code == 422
    assert client.delete(f"{at}/{kept['id']}").status_code == 204
    assert client.get(f"{at}/{kept['id']}/picture").status_code == 404


def require_wires_from_pad_to_pad(seen, placed, cut):
    """Every wire of the cut list between what is placed, in its colour; on a board away from its socket's wall."""
    assert {(wire["letter"], wire["colour"]) for wire in seen["wires"]} <= {(w["letter"], w["colour"]) for w in cut}
    assert len(seen["wires"]) >= 4
    charger = next(one for one in placed if one["kind"] == "board")
    cell = next(one for one in placed if one["kind"] == "cell")
    for wire in seen["wires"]:
        for (x, y), pad in zip(
            (wire["line"][0], wire["line"][2]), wire["says"].split(": ")[1].split(" to "), strict=True
        ):
            at, part = (x * 60, (1 - y) * 40), pad.split(" ")[0]
            one = {"charger": charger, "cell": cell}.get(part)
            if one is None:
                assert (part, at[0]) == ("gadget", pytest.approx(0))
                continue
            assert all(one["min_mm"][a] < at[a] < one["max_mm"][a] for a in (0, 1)), (pad, at)
            if part == "charger":
                axis, end = {
                    "left": (0, "max_mm"),
                    "right": (0, "min_mm"),
                    "front": (1, "max_mm"),
                    "back": (1, "min_mm"),
                }[one["face_side"]]
                assert abs(one[end][axis] - at[axis]) == pytest.approx(1.0, abs=0.01)  # amid 2 mm for its wires
        # Led along the bay, then across.
        assert wire["line"][1] == pytest.approx([wire["line"][2][0], wire["line"][0][1]], abs=1e-6)
    assert len({tuple(spot) for wire in seen["wires"] for spot in (wire["line"][0], wire["line"][2])}) > 4


def test_a_bay_marked_by_its_corners_is_straightened_and_shows_what_lies_in_it(client, project):
    """Seen straight on in a picture of 600 x 400, so that a place in it is a place in the bay: 60 x 40 mm."""
    at = f"/api/projects/{project['id']}/photos"
    kept = client.post(at, content=jpeg(600, 400)).json()
    asked = {"document": plan().model_dump(mode="json"), "build": 0}
    unmarked = client.post(f"{at}/{kept['id']}/parts", json=asked)
    assert (unmarked.status_code, "mark the bay's four corners" in unmarked.json()["detail"]) == (422, True)
    corners = [{"x": x, "y": y} for x, y in ((0, 1), (1, 1), (1, 0), (0, 0))]
    marks = {"bay": {"corners": corners, "length_mm": 60, "width_mm": 40}}
    marks["lengths"] = [{"name": "across", "line": line(0, 0.5, 0.5, 0.5)}]
    marked = client.put(f"{at}/{kept['id']}", json={"caption": "bay", "marks": marks}).json()
    assert marked["lengths"][0]["mm"] == pytest.approx(30)
    crossed = marks | {"bay": marks["bay"] | {"corners": [corners[n] for n in (0, 2, 1, 3)]}}
    assert client.put(f"{at}/{kept['id']}", json={"caption": "bay", "marks": crossed}).status_code == 422

    seen = client.post(f"{at}/{kept['id']}/parts", json=asked).json()
    placed = client.post("/api/questions/fit", json=asked).json()["answer"]["placements"]
    assert {part["part"] for part in seen["parts"]} == {part["part"] for part in placed}
    for part in seen["parts"]:
        low = next(one["min_mm"] for one in placed if one["part"] == part["part"])
        assert part["corners"][0] == pytest.approx([low[0] / 60, 1 - low[1] / 40], abs=1e-6)
    cut = client.post("/api/questions/wiring", json=asked).json()["cut_list"]
    require_wires_from_pad_to_pad(seen, placed, cut)
    box = client.post(f"{at}/{kept['id']}/traced", json=asked | {"line": line(0.01, 0.99, 0.5, 0.5)}).json()
    assert (box["at_mm"], box["size_mm"]) == ([0.0, 0.0], [30.0, 20.0])
    straight = client.get(f"{at}/{kept['id']}/straight")
    assert Image.open(io.BytesIO(straight.content)).size == (1200, 800)
    # Turned with the picture, the corners stay the same corners of the bay.
    turned = client.post(f"{at}/{kept['id']}/turn").json()
    assert turned["lengths"][0]["mm"] == pytest.approx(30)


def test_who_asks_for_news_is_told_of_photographs_and_own_parts(client, project):
    at = f"/api/projects/{project['id']}"

    def told():
        news = client.get(f"{at}/revision").json()
        return news["photos"], news["parts"]

    seen = [told()]
    photo = client.post(f"{at}/photos?caption=inside", content=jpeg()).json()
    seen.append(told())
    client.put(f"{at}/photos/{photo['id']}", json={"caption": "bay", "marks": {}}).raise_for_status()
    seen.append(told())
    client.delete(f"{at}/photos/{photo['id']}").raise_for_status()
    seen.append(told())
    part = keep(client, "cell", USED)
    seen.append(told())
    client.put(f"/api/inventory/{part['id']}", json={"kind": "cell", "body": USED, "stock": 3}).raise_for_status()
    seen.append(told())
    photos, parts = zip(*seen, strict=True)
    assert [a != b for a, b in itertools.pairwise(photos)] == [True, True, True, False, False]
    assert [a != b for a, b in itertools.pairwise(parts)] == [False, False, False, True, True]
    assert told() == seen[-1]


def photographed_card(mm_per_px=0.25):
    """A white card of 85.60 x 53.98 mm (ISO/IEC 7810, ID-1) on a dark bench, straight from above, a little turned."""
    picture = Image.new("L", (900, 700), 60)
    card = Image.new("L", (round(85.60 / mm_per_px), round(53.98 / mm_per_px)), 230)
    turned = card.rotate(12, expand=True, resample=Image.Resampling.BICUBIC)
    mask = Image.new("L", card.size, 255).rotate(12, expand=True, resample=Image.Resampling.BICUBIC)
    picture.paste(turned, (420, 250), mask)
    out = io.BytesIO()
    picture.convert("RGB").save(out, "JPEG", quality=92)
    return out.getvalue()


def test_a_card_in_the_picture_measures_what_lies_in_its_plane(client, project):
    at = f"/api/projects/{project['id']}/photos"
    kept = client.post(at, content=photographed_card()).json()
    at = f"{at}/{kept['id']}"
    corners = [{"x": x / 900, "y": y / 700} for x, y in ((100, 500), (348, 500), (348, 348), (100, 348))]
    refused = client.post(f"{at}/rectangle", json={"corners": corners})
    assert refused.status_code == 422
    assert "let the card be found" in refused.json()["detail"]
    found = client.post(f"{at}/card").json()
    assert len(found["marks"]["card"]["corners"]) == 4
    # 248 and 152 pixels of a quarter millimetre, by hand
    size = client.post(f"{at}/rectangle", json={"corners": corners}).json()
    assert (size["length_mm"], size["width_mm"]) == (pytest.approx(62, abs=0.4), pytest.approx(38, abs=0.4))
    marks = found["marks"] | {"lengths": [{"name": "bay", "line": line(100 / 900, 0.5, 348 / 900, 0.5)}]}
    read = client.put(at, json={"caption": "x", "marks": marks, "revision": found["revision"]}).json()
    assert read["lengths"][0]["mm"] == pytest.approx(62, abs=0.4)
    turned = client.post(f"{at}/turn").json()
    assert turned["lengths"][0]["mm"] == pytest.approx(62, abs=0.4)


def test_without_a_card_the_picture_stays_as_it_is(client, project):
    at = f"/api/projects/{project['id']}/photos"
    kept = client.post(at, content=jpeg(800, 600)).json()
    answer = client.post(f"{at}/{kept['id']}/card")
    assert answer.status_code == 422
    assert "No card was found" in answer.json()["detail"]
    assert client.get(at).json()[0]["marks"]["card"] is None
