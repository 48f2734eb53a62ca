"""Colour arithmetic, all of it: sRGB and contrast, colour difference, and colours as others see them."""
