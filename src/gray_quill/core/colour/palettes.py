"""Ready sets of colours to start a palette from. What each promises is checked in tests/outside/test_palettes.py.

"told apart by everybody": Okabe and Ito, Color Universal Design, 2008 (the values are theirs).
"""

Named = tuple[str, str]  # name, colour

PALETTES: dict[str, tuple[Named, ...]] = {
    "quiet desk, 4.5:1 on light paper": (
        ("graphite", "#20242b"),
        ("slate", "#4a5560"),
        ("dusk", "#1d3557"),
        ("fen", "#2e5e5a"),
        ("bark", "#6b4423"),
        ("berry", "#7a2850"),
    ),
    "told apart by everybody": (
        ("black", "#000000"),
        ("orange", "#e69f00"),
        ("sky", "#56b4e9"),
        ("green", "#009e73"),
        ("yellow", "#f0e442"),
        ("blue", "#0072b2"),
        ("vermilion", "#d55e00"),
        ("purple", "#cc79a7"),
    ),
    "greys for grey panels": (
        ("black", "#000000"),
        ("soot", "#444444"),
        ("ash", "#888888"),
        ("mist", "#bbbbbb"),
    ),
    "for dark paper, 4.5:1 on black": (
        ("lamp", "#f4efdf"),
        ("straw", "#f2c14e"),
        ("rain", "#9cc9e3"),
        ("mint", "#a9d8b8"),
        ("rose", "#e6a3a3"),
        ("lilac", "#c9b6e4"),
    ),
}
