"""Files that are made of one build, to be taken away. One entry is one file: where it is offered, how it is made."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from pocketspark.core.chain import Chain
from pocketspark.core.error import PocketSparkError
from pocketspark.core.fit import placing
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.models import Project
from pocketspark.core.questions.shopping import Owned, shopping_list
from pocketspark.core.units.reading import METRIC, read_as, reading
from pocketspark.core.wiring.drawing import draw
from pocketspark.formats import build_sheet, certificate, drill_pages, drill_template, spice
from pocketspark.formats.paper import MM, PaperSize
from pocketspark.formats.sheet_pictures import as_svg, hook_up_picture

_READ_BY_PROGRAMS = frozenset({"csv", "cir", "dxf"})


class NoOldCharger(PocketSparkError, LookupError):
    """The circuit with the old adapter was asked for where nothing of it reaches the batteries."""

    status = 409

    def __init__(self) -> None:
        super().__init__("nothing charges this gadget's batteries today, or it no longer reaches them")


class NothingPlaced(PocketSparkError, LookupError):
    """A file of the fit was asked for where there is none."""

    status = 409

    def __init__(self) -> None:
        super().__init__("nothing is known of the bay, or there is nothing to place in it yet")


@dataclass(frozen=True)
class ExportedBuild:
    """What a file is made of: one build of a project, and the parts that its maker has."""

    project: Project
    build: int
    owned: Sequence[Owned] = ()

    @property
    def chain(self) -> Chain:
        return Chain(self.project, self.build)

    @property
    def fit(self) -> FitAnswer:
        """Raises NothingPlaced."""
        answer = placing.fit_of(self.project, self.build)
        if answer is None:
            raise NothingPlaced
        return answer

    def titled(self, what: str) -> str:
        return f"{self.project.gadget.name}: {what}"


@dataclass(frozen=True)
class Export:
    """One file. `pages`: where it is offered; `ending`: of its name; `paper`: what it is laid out for."""

    label: str
    pages: tuple[str, ...]
    ending: str
    media_type: str
    make: Callable[[ExportedBuild], str | bytes]
    paper: PaperSize | None = None

    def made(self, of: ExportedBuild) -> str | bytes:
        """The file. What programs read is in mm, Celsius and decimal points, whoever asks for it."""
        with read_as(METRIC if self.ending in _READ_BY_PROGRAMS else reading()):
            return self.make(of)


def _at_half_v(of: ExportedBuild) -> float:
    """At the middle of the cell's curve."""
    return float(of.chain.required_running().chosen.curve.at(0.5))


def _running(of: ExportedBuild) -> str:
    return spice.running_netlist(of.chain.required_running(), of.chain.heaviest, _at_half_v(of))


def _charging(of: ExportedBuild) -> str:
    return spice.charging_netlist(of.chain, _at_half_v(of), of.chain.heaviest)


def _old_jack(of: ExportedBuild) -> str:
    """Raises NoOldCharger."""
    existing = of.project.gadget.existing_charging
    if existing.kind == "none" or existing.treatment in ("cut", "moved"):
        raise NoOldCharger
    return spice.old_jack_netlist(of.chain.required_running(), of.chain.heaviest, _at_half_v(of))


def _drill_pages(of: ExportedBuild, paper: PaperSize) -> bytes:
    return drill_pages.to_pdf(drill_template.sheet_of(of.fit), of.titled("drill template"), paper)


_CSV, _PDF, _SVG, _SPICE = "text/csv", "application/pdf", "image/svg+xml", "text/plain"

EXPORTS: dict[str, Export] = {
    "sheet": Export("PDF, A4", ("sheet",), "pdf", _PDF, lambda of: build_sheet.to_pdf(of.project, of.build), "a4"),
    "sheet-letter": Export(
        "PDF, Letter", ("sheet",), "pdf", _PDF, lambda of: build_sheet.to_pdf(of.project, of.build, "letter"), "letter"
    ),
    "parts": Export(
        "Parts, CSV", ("sheet", "wire"), "csv", _CSV, lambda of: build_sheet.bill_as_csv(of.project, of.build)
    ),
    "hook-up": Export(
        "Drawing, SVG",
        ("wire",),
        "svg",
        _SVG,
        lambda of: as_svg(hook_up_picture(draw(hook_up(of.chain)), MM), of.titled("hook-up")),
    ),
    "running": Export("Running, netlist", ("wire",), "cir", _SPICE, _running),
    "charging": Export("Charging, netlist", ("wire",), "cir", _SPICE, _charging),
    "old-jack": Export("Old adapter in, netlist", ("wire",), "cir", _SPICE, _old_jack),
    "drill-a4": Export("PDF, A4", ("fit",), "pdf", _PDF, lambda of: _drill_pages(of, "a4"), "a4"),
    "drill-letter": Export("PDF, Letter", ("fit",), "pdf", _PDF, lambda of: _drill_pages(of, "letter"), "letter"),
    "drill-svg": Export(
        "SVG",
        ("fit",),
        "svg",
        _SVG,
        lambda of: drill_template.to_svg(drill_template.sheet_of(of.fit), of.titled("drill template")),
    ),
    "drill-dxf": Export(
        "DXF", ("fit",), "dxf", "image/vnd.dxf", lambda of: drill_template.to_dxf(drill_template.sheet_of(of.fit))
    ),
    "shopping": Export(
        "Save as CSV",
        ("shopping",),
        "csv",
        _CSV,
        lambda of: build_sheet.shopping_as_csv(shopping_list(of.project, of.build, of.owned)),
    ),
    "certificate": Export(
        "Certificate and labels, PDF, A4",
        ("finished",),
        "pdf",
        _PDF,
        lambda of: certificate.to_pdf(of.project, of.build),
        "a4",
    ),
    "certificate-letter": Export(
        "Certificate and labels, PDF, Letter",
        ("finished",),
        "pdf",
        _PDF,
        lambda of: certificate.to_pdf(of.project, of.build, "letter"),
        "letter",
    ),
}


class NoSuchExport(PocketSparkError, LookupError):
    """A file was asked for that this tool does not make."""

    status = 404

    def __init__(self, key: str) -> None:
        super().__init__(f"there is no file called '{key}'; there are {', '.join(EXPORTS)}")


def export_of(key: str) -> Export:
    """Raises NoSuchExport."""
    if key not in EXPORTS:
        raise NoSuchExport(key)
    return EXPORTS[key]
