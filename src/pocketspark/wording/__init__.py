"""The one place that knows languages: catalogues of the core's templates, found by their file names."""

from pocketspark.wording.catalogues import in_language, language_of, languages, reader_named

__all__ = ["in_language", "language_of", "languages", "reader_named"]
