"""The pen: a recipe of eight groups, one module a group, and the plan the browser draws from."""
