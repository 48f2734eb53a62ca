"""The criteria of a line-up, one file each, in the order they are shown. A new one is a file and a line here."""

from gray_quill.core.lineup.criteria import (
    calm,
    corners,
    drag,
    faithful,
    hairlines,
    lag,
    legible,
    light_force,
    open_letters,
    options,
    palm,
    shading,
    taper,
    thick_thin,
    tips,
    wash,
)
from gray_quill.core.lineup.criterion import Criterion

CRITERIA: dict[str, Criterion] = {
    each.CRITERION.key: each.CRITERION
    for each in (
        thick_thin,
        light_force,
        tips,
        taper,
        calm,
        drag,
        faithful,
        corners,
        open_letters,
        legible,
        hairlines,
        shading,
        wash,
        lag,
        palm,
        options,
    )
}
