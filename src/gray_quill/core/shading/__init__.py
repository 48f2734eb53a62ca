"""The shading bench: how a pen shades and how it still writes, by the hand and the device of a sheet."""
