"""What should a maker be told before somebody eats it? Rules on colours by region."""

from coating.care.colour_rules import REGIONS, WHITE_LIMIT_US, may_propose, rule_for

__all__ = ["REGIONS", "WHITE_LIMIT_US", "may_propose", "rule_for"]
