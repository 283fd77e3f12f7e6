"""A radio's keys learnt by doing: what was pressed and seen for one memory, understood, tried on another, used for all."""
