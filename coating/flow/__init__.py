"""How does it flow? Casson's law, the trade number, what fat, water, heat and crystals do to it.

Two numbers describe a melted coating: the yield stress, under which it stands, and the viscosity above it. Every
technique wants a window of both. Nothing here was measured on anybody's coating: every prediction carries a range.
"""

from coating.flow.casson1959 import Flow, pipe_flow
from coating.flow.ribbon import WORDS, flow_word
from coating.flow.state import Conditions, flow_now
from coating.flow.trade_number import flow_from_number, number_from_flow
from coating.flow.windows import WINDOWS, Window, window

__all__ = [
    "WINDOWS",
    "WORDS",
    "Conditions",
    "Flow",
    "Window",
    "flow_from_number",
    "flow_now",
    "flow_word",
    "number_from_flow",
    "pipe_flow",
    "window",
]
