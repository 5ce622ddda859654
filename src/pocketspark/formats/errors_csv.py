"""The errors of predictions as CSV, a row for each figure of each build."""

import csv
import io

from pocketspark.core.questions.prediction_errors import PredictionErrors
from pocketspark.formats.build_sheet import as_cell


def errors_as_csv(errors: PredictionErrors) -> str:
    """Kind, gadget, planned and measured as they read, and measured over planned less one."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("kind", "gadget", "planned", "measured", "off"))
    for kind in errors.kinds:
        for one in kind.errors:
            texts = map(as_cell, map(str, (kind.what, one.gadget, one.planned, one.measured)))
            writer.writerow([*texts, f"{one.off_share:.4f}"])
    return out.getvalue()
