"""The base of every error of ours: raised with the sentence that a maker should read."""

from typing import ClassVar


class PocketSparkError(Exception):
    """Something that cannot be done, in one sentence. `status`: what a web answer says of its kind."""

    status: ClassVar[int] = 422
