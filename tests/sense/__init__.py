"""Builder's sense: laws that every answer obeys, one module per group.

Groups D (time) and E (ranking) begin with glue; the rest of them comes with repairs and the plan."""

from tests.sense import putting_on, ranking, size_and_load, taking_away, waiting, words

GROUPS = {
    "A": putting_on, "B": taking_away, "C": size_and_load, "D": waiting, "E": ranking, "F": words,
}  # fmt: skip
