"""Builder's sense: laws that every answer obeys, one module per group.

Groups D (time) and E (ranking) are about glue, "repairs" about mending, "plan" about the order of work."""

from tests.sense import balancing, mending, planning, putting_on, ranking, size_and_load, taking_away, waiting, words

GROUPS = {
    "A": putting_on, "B": taking_away, "C": size_and_load, "D": waiting, "E": ranking, "F": words,
    "repairs": mending, "balance": balancing, "plan": planning,
}  # fmt: skip
