"""The style sheet of the standard widgets, made from the tokens. Own-painted views take the tokens themselves."""

from pathlib import Path
from string import Template

from umbra_awl.desk.theme.tokens import Tokens

_SHEET = Template("""
* { font-family: "$words"; font-size: ${body}px; color: $ink; }
QWidget#canvas, QMainWindow, QDialog { background: $bg; }
QWidget#bar, QWidget#ribbon { background: $panel; }
QLabel { background: transparent; }
QLabel[role="title"] { font-size: ${title}px; font-weight: 600; }
QLabel[role="second"] { color: $ink2; font-size: ${small}px; }
QLabel[role="mono"] { font-family: "$mono"; }
QLabel[role="stop"] { color: $stop; font-weight: 600; }
QLabel[role="brass"] { color: $brass; font-weight: 600; }
QLabel[role="ok"] { color: $ok; }
QLabel[role="violet"] { color: $violet; font-weight: 600; }
QFrame[role="finding"] { background: transparent; border: none; border-bottom: 1px solid $line; }
QPushButton[role="line"] { text-align: left; border: 1px solid transparent; border-radius: 4px; padding: 0; background: transparent; }
QPushButton[role="line"]:hover, QPushButton[role="line"]:checked { background: $panel; }
QPushButton[role="line"]:focus { border: 2px solid $violet; }
QWidget#foot { background: $panel; border-top: 1px solid $line; }
QSplitter::handle { background: transparent; }
QFrame[role="card"] { background: $panel; border: 1px solid $line; border-radius: 6px; }
QFrame[role="sheet"] { background: $sheet; border: 1px solid $line; border-radius: 6px; }
QFrame[role="rule"] { background: $line; max-height: 1px; min-height: 1px; border: none; }
QFrame[severity="stop"] { border-left: 4px solid $stop; }
QFrame[severity="warn"] { border-left: 4px solid $brass; }
QFrame[severity="note"] { border-left: 4px solid $ink2; }
QFrame[current="true"] { background: $violet_tint; }
QFrame#message[kind="stop"] { background: $stop_tint; border: 1px solid $stop; border-radius: 6px; }
QFrame#message[kind="say"] { background: $violet_tint; border: 1px solid $violet; border-radius: 6px; }
QPushButton { background: transparent; border: 2px solid transparent; border-radius: 6px; padding: 3px 8px; min-height: 20px;
  color: $violet; font-weight: 500; }
QPushButton:hover { background: $violet_tint; }
QPushButton:focus { border-color: $violet; }
QPushButton:disabled { color: $ink2; }
QPushButton[role="main"] { background: $violet; color: $panel; font-weight: 600; padding: 3px 14px; }
QPushButton[role="main"]:hover { background: $violet; border-color: $brass; }
QPushButton[role="main"]:focus { border-color: $ink; }
QPushButton[role="main"]:disabled { background: $shade; color: $ink2; }
QPushButton[role="plain"] { color: $ink; font-weight: 400; }
QPushButton[role="plan"] { color: $ink; font-size: ${title}px; font-weight: 600; padding: 2px 6px; }
QPushButton[role="call"] { font-family: "$mono"; background: $violet_tint; color: $violet; font-weight: 600; padding: 2px 16px; }
QPushButton[role="segment"] { color: $ink2; border-radius: 6px; padding: 3px 10px; }
QPushButton[role="segment"]:checked { background: $violet_tint; color: $violet; font-weight: 600; }
QPushButton[role="key"] { background: $sheet; color: $ink; border: 1px solid $line; border-radius: 6px; padding: 4px 6px; }
QPushButton[role="key"]:hover, QPushButton[role="key"]:focus { border: 1px solid $violet; }
QPushButton[role="key"]:pressed { background: $violet_tint; }
QPushButton[role="value"] { color: $ink; font-weight: 500; text-align: left; padding: 1px 4px; min-height: ${value}px; border-bottom: 1px dotted $line; border-radius: 0; }
QPushButton[role="value"]:focus { border: 2px solid $violet; border-radius: 6px; }
QPushButton[role="value"][mono="true"] { font-family: "$mono"; }
QPushButton[role="value"][tone="stop"] { color: $stop; }
QPushButton[role="value"][tone="ok"] { color: $ok; }
QLineEdit, QComboBox, QPlainTextEdit { background: $sheet; border: 1px solid $line; border-radius: 6px; padding: 3px 8px;
  min-height: 20px; selection-background-color: $violet; selection-color: $panel; }
QLineEdit:focus, QComboBox:focus, QPlainTextEdit:focus { border: 2px solid $violet; padding: 2px 7px; }
QLineEdit[wrong="true"] { border: 2px solid $stop; padding: 2px 7px; }
QLineEdit[role="finder"] { background: $bg; }
QLineEdit[role="filter"] { background: transparent; border: none; border-bottom: 1px solid $line; border-radius: 0; padding: 1px 2px; }
QLineEdit[role="filter"]:focus { border-bottom: 2px solid $violet; }
QComboBox::drop-down { border: none; width: 22px; }
QComboBox::down-arrow { image: url("$arrow"); width: 12px; height: 12px; }
QComboBox QAbstractItemView { background: $sheet; border: 1px solid $line; selection-background-color: $violet_tint;
  selection-color: $ink; outline: none; }
QMenu { background: $panel; border: 1px solid $line; padding: 4px; }
QMenu::item { padding: 4px 24px 4px 12px; border-radius: 4px; }
QMenu::item:selected { background: $violet_tint; color: $ink; }
QMenu::item:disabled { color: $ink2; }
QMenu::separator { height: 1px; background: $line; margin: 4px 8px; }
QListView, QTreeView, QTableView { background: $sheet; border: 1px solid $line; border-radius: 6px; outline: none;
  selection-background-color: $violet_tint; selection-color: $ink; }
QListView::item { padding: 3px 6px; border-radius: 4px; }
QListView::item:selected { background: $violet_tint; color: $ink; }
QListView:focus, QTreeView:focus, QTableView:focus { border: 2px solid $violet; }
QListView#offers, QListView#offers:focus { border: none; }
QTableView { gridline-color: $line; }
QHeaderView::section { background: $panel; color: $ink2; font-size: ${small}px; border: none; border-bottom: 1px solid $line;
  padding: 3px 6px; }
QScrollArea, QScrollArea > QWidget > QWidget#flow { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle { background: $line; border-radius: 4px; min-height: 28px; min-width: 28px; margin: 1px; }
QScrollBar::handle:hover { background: $ink2; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background: none; border: none; width: 0; height: 0; }
QAbstractScrollArea::corner { background: transparent; border: none; }
QToolTip { background: $ink; color: $panel; border: none; padding: 4px 6px; }
QProgressBar { background: $shade; border: none; border-radius: 4px; min-height: 8px; max-height: 8px; }
QProgressBar::chunk { background: $violet; border-radius: 4px; }
QCheckBox { spacing: 8px; border: 2px solid transparent; border-radius: 6px; padding: 2px; }
QCheckBox:focus { border-color: $violet; }
QTableView::indicator { width: 12px; height: 12px; border: 2px solid $ink2; border-radius: 8px; background: $sheet; }
QTableView::indicator:checked { border-color: $hole; background: $hole; }
""")


def style_sheet(tokens: Tokens, scale: float, words: str, mono: str) -> str:
    """The style sheet of a theme at a text scale (1 is 13 px body)."""
    sizes = {
        "value": round(18 * scale),
        "small": round(12 * scale),
        "body": round(13 * scale),
        "stage": round(14 * scale),
        "title": round(16 * scale),
    }
    arrow = (Path(__file__).parent / f"down-{tokens.name}.png").as_posix()
    return _SHEET.substitute(tokens._asdict(), words=words, mono=mono, arrow=arrow, **sizes)
