"""The pack as text for others: CSV of its tables, and a SPICE netlist."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence

from lumvak.core.arrangement.layout import AXES, FACE_NAMES
from lumvak.core.evaluation import Evaluation, fixings_in_hand
from lumvak.core.joints.node_names import node_names
from lumvak.core.joints.pieces import KIND_NAMES, terminal_name
from lumvak.core.making.cut_lines import numbers_of, where
from lumvak.core.making.cut_list import Cut
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.files.power_records import finite, pair_rows, place_rows, settings_rows
from lumvak.files.problem import FileProblem
from lumvak.files.spreadsheet import harmless_row


def csv_text(
    evaluation: Evaluation, cuts: Sequence[Cut], warning: str = "", spelling: Spelling = PLAIN
) -> str:
    """Cut pieces, cells, joints and power path, one table after the other, each with its heads.

    It is long, for it writes one table after the other.
    """
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")

    def write(cells: Iterable[object]) -> object:
        return rows.writerow(harmless_row(cells))

    joined_pack, layout = evaluation.laid_out.joined_pack, evaluation.laid_out.joined_pack.layout
    if warning:
        write(("warning", warning))
        write(())
    write(
        (
            "table",
            "role",
            "form",
            "material",
            "part",
            "thickness_mm",
            "width_mm",
            "length_mm",
            "count",
            "where",
            "x1_mm",
            "y1_mm",
            "x2_mm",
            "y2_mm",
            "number",
            "bends_mm",
            "shape",
        )
    )
    numbers = numbers_of(cuts)
    for cut in cuts:
        size = cut.size
        write(
            (
                "piece",
                size.role,
                size.form,
                size.material,
                spoken(size.part, spelling),
                f"{size.thickness_mm:g}",
                f"{size.width_mm:g}",
                f"{size.length_mm:g}",
                cut.count,
                spoken(where(cut), spelling),
                *(f"{value:.3f}" for value in (*cut.start, *cut.end)),
                numbers[size],
                " ".join(f"{at:g}" for at in size.bends_mm),
                size.letter,
            )
        )
    write(())
    write(("table", "part", "count"))
    for item in fixings_in_hand(evaluation):
        write(("fixing", spoken(item.name, spelling), item.count))
    write(())
    write(("table", "cell", "group", "x_mm", "y_mm", "z_mm", "direction", "positive", "current_a"))
    for cell in range(len(layout)):
        amps = "" if joined_pack.flow is None else f"{joined_pack.flow.cell_a[cell]:.6g}"
        write(
            (
                "cell",
                layout.name[cell],
                int(layout.group[cell]) + 1,
                *(f"{values[cell]:.3f}" for values in (layout.x_mm, layout.y_mm, layout.z_mm)),
                AXES[layout.axis[cell]],
                FACE_NAMES[layout.face[2 * cell]],
                amps,
            )
        )
    write(())
    write(
        (
            "table",
            "kind",
            "from",
            "to",
            "face",
            "length_mm",
            "section_mm2",
            "ohm",
            "current_a",
            "loss_w",
            "rise_k",
        )
    )
    pieces, sections = joined_pack.pieces, joined_pack.sections
    for piece in range(len(pieces)):
        solved = ("", "", "")
        if joined_pack.flow is not None and joined_pack.carried is not None:
            solved = tuple(
                f"{float(values[piece]):.6g}"
                for values in (
                    joined_pack.flow.piece_a,
                    joined_pack.flow.piece_w,
                    joined_pack.carried.rise_k,
                )
            )  # type: ignore[assignment]
        write(
            (
                "joint",
                KIND_NAMES[pieces.kind[piece]],
                terminal_name(layout, int(pieces.a[piece])),
                terminal_name(layout, int(pieces.b[piece])),
                FACE_NAMES[pieces.face[piece]],
                f"{pieces.length_mm[piece]:.3f}",
                f"{sections.area_mm2[piece] * sections.strips[piece]:.4g}",
                f"{sections.ohm[piece]:.9g}",
                *solved,
            )
        )
    _power_tables(evaluation, write, spelling)
    return out.getvalue()


def _power_tables(
    evaluation: Evaluation, write: Callable[[Iterable[object]], object], spelling: Spelling
) -> None:
    """The settings sheet, the parts of the power path and what opens first.

    It is long, for one table follows the other.
    """
    write(())
    write(
        (
            "table",
            "setting",
            "value",
            "unit",
            "release",
            "delay_s",
            "wanted",
            "origin",
            "reason",
            "problem",
        )
    )
    for row in settings_rows(evaluation, spelling):
        write(
            (
                "setting",
                row["setting"],
                _plain(row["value"]),
                row["unit"],
                _plain(row["release"]),
                _plain(row["delay_s"]),
                _plain(row["wanted"]),
                row["origin"],
                row["reason"],
                row["problem"] or "",
            )
        )
    write(())
    write(("table", "place", "part", "name", "price", "against"))
    for row in place_rows(evaluation, spelling):
        against = "; ".join(point["text"] for point in row["against"])
        write(
            (
                "part",
                row["place"],
                row["part"] or "",
                row["name"] or "",
                _plain(row["price"]),
                against,
            )
        )
    write(())
    write(("table", "link", "detail", "continuous_a", "for_10_s_a", "for_1_s_a", "load_a"))
    for link in evaluation.path.links:
        limits = (link.continuous_a, link.limit_a(10.0), link.limit_a(1.0))
        held = (_plain(finite(value)) for value in limits)
        detail = spoken(link.detail, spelling)
        write(("link", link.key, detail, *held, _plain(link.demand_a)))
    write(())
    write(("table", "first", "second", "in_order", "margin_a", "at_s", "fails_from_s"))
    for row in pair_rows(evaluation):
        fails = row["fails_s"][0][0] if row["fails_s"] else None
        write(
            (
                "pair",
                row["first"],
                row["second"],
                "yes" if row["holds"] else "no",
                _plain(row["margin_a"]),
                _plain(row["at_s"]),
                _plain(fails),
            )
        )


def _plain(value: float | None) -> str:
    return "" if value is None else f"{value:.6g}"


def spice_text(evaluation: Evaluation) -> str:
    """The solved network as a netlist; raises FileProblem where nothing was solved."""
    joined_pack = evaluation.laid_out.joined_pack
    if joined_pack.solved is None or joined_pack.network is None or joined_pack.flow is None:
        raise FileProblem(
            "nothing to simulate: the joints are not solved; put right what the drawing marks"
        )
    network, branches = joined_pack.network, joined_pack.solved.branches
    names = node_names(joined_pack)
    layout = joined_pack.layout
    lines = [
        f"* {evaluation.project.name}: {layout.series}S{layout.parallel}P at "
        f"{joined_pack.flow.current_a:.9g} A",
        "* node 0 is the outer negative end, pack the outer positive end",
        "* g1c1p, g1c1n are a cell's own ends; a trailing s is the strip over one",
    ]
    for count, branch in enumerate(range(branches.pieces), 1):
        one, two = names.node[branches.a[branch]], names.node[branches.b[branch]]
        lines.append(f"RP{count} {one} {two} {1.0 / branches.siemens[branch]:.12g}")
    for cell, name in enumerate(layout.name):
        strip_p, strip_n = names.node[2 * cell], names.node[2 * cell + 1]
        end_p, end_n = names.terminal[2 * cell], names.terminal[2 * cell + 1]
        lines.append(f"V{name} {name}e {end_n} DC {network.emf_v[cell]:.12g}")
        lines.append(f"RI{name} {name}e {end_p} {network.cell_ohm[cell]:.12g}")
        upper = network.contact_ohm[2 * cell] + network.link_ohm[cell]
        lines.append(f"RW{name}p {end_p} {strip_p} {upper:.12g}")
        lines.append(f"RW{name}n {end_n} {strip_n} {network.contact_ohm[2 * cell + 1]:.12g}")
    for place, node in enumerate(branches.lead_node):
        outer = "pack" if network.leads[place].pole == "+" else "0"
        lines.append(f"RL{place + 1} {names.node[node]} {outer} {network.lead_ohm[place]:.12g}")
    lines += [f"ILOAD pack 0 DC {joined_pack.flow.current_a:.12g}", ".op", ".end"]
    return "\n".join(lines) + "\n"
