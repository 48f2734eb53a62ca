"""Whether a panel's fast path takes a pen's ink, and what changes so that it does."""

import dataclasses

from gray_quill.core.advice.on_panel import PanelAdvice
from gray_quill.core.digitiser.device import Device
from gray_quill.core.ink.two_tone import is_plain_able
from gray_quill.core.latency.trial import model_lag, takes_fast_path
from gray_quill.core.pen.recipe import Recipe


def path_advice(device: Device, recipe: Recipe) -> list[PanelAdvice]:
    """Nothing where there is no fast path, where it takes this ink already, or where it never can."""
    if not device.panel.fast_pen or takes_fast_path(recipe) or not is_plain_able(recipe):
        return []
    plain = dataclasses.replace(
        recipe,
        body=dataclasses.replace(recipe.body, hollow=dataclasses.replace(recipe.body.hollow, on=False)),
        wash=dataclasses.replace(recipe.wash, wet_edge=0.0),
        tooth=dataclasses.replace(recipe.tooth, grain="none"),
    )
    kept = {"walls": recipe.body.hollow.on, "a wet edge": recipe.wash.wet_edge > 0, "tooth": recipe.tooth.toothed}
    before, after = model_lag(device, recipe).p50_ms, model_lag(device, plain).p50_ms
    evidence = f"ink with {' and '.join(k for k, has in kept.items() if has)} waits for whole pictures on this panel"
    doing = "plain ink, which appears under the nib"
    return [PanelAdvice("Ink that comes late", evidence, doing, ("lag", "p50_ms"), before, after, plain)]
