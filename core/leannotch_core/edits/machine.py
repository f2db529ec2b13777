"""Edits of machines, of what is known of stocks on them, and of their settings."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.machine import Machine
from ..document.model import Id
from ..document.operations import Work
from ..document.routing import RoutedAt
from ..document.setting import Setting
from ..document.sizes import shown
from ..document.stock import MOST_KERFS, Clearances, CutterWidth, Kerf, KerfAt, MadeFor, Stock
from ..facts.cutters import cutter_facts
from ..facts.kerf import kerf_width
from ..machining.settings import copied
from ..project.cutting import cutter_in_use, goes_round
from ..project.project import Project
from .items import known, put, without


class PutMachine(Edit):
    """Adds a machine, or replaces the one with its id; with ``use``, it is the one that cuts from now on."""

    do: Literal["put machine"]
    machine: Machine
    use: bool = False

    def label(self, project: Project) -> str:
        return f"{self.machine.name} {known(project.machines, self.machine.id)}"

    def changes(self, project: Project) -> Changes:
        changed: Changes = {"machines": put(project.machines, self.machine)}
        return changed | ({"machine": self.machine.id} if self.use else {})


class UseMachine(Edit):
    """Says which machine cuts from now on: kerf, clearances and settings are those that are known of it."""

    do: Literal["use machine"]
    machine: Literal[""] | Id

    def label(self, project: Project) -> str:
        machine = project.machine_of(self.machine)
        return f"Cut on {machine.name}" if machine else "Cut on no machine in particular"

    def changes(self, project: Project) -> Changes:
        if self.machine and project.machine_of(self.machine) is None:
            raise CannotApply(f"“{self.machine}” is not in the project any more.")
        return {"machine": self.machine}


class RemoveMachine(Edit):
    """Takes a machine out of the project; what is known of stocks on it stays with them."""

    do: Literal["remove machine"]
    id: Id

    def label(self, project: Project) -> str:
        machine = project.machine_of(self.id)
        return f"{machine.name if machine else self.id} removed"

    def changes(self, project: Project) -> Changes:
        left = without(project.machines, self.id)
        return {"machines": left, "machine": "" if project.machine == self.id else project.machine}


class SetKnown(Edit):
    """Sets the kerf, that along y, that of the lower face, or the clearances of a stock on the machine in use.

    With ``straight`` walls nothing is known of the lower face any more, and ``evenly`` cut nothing of y; ``kerfs``
    are those of other settings, all that stay.
    """

    do: Literal["set known"]
    stock: Id
    kerf: Kerf | None = None
    up: Kerf | None = None
    below: Kerf | None = None
    made_for: MadeFor | None = None
    straight: Literal[True] | None = None
    evenly: Literal[True] | None = None
    kerfs: list[KerfAt] | None = Field(default=None, max_length=MOST_KERFS)
    clearances: Clearances | None = None

    def label(self, project: Project) -> str:
        return f"{'Clearances' if self.clearances else 'Kerf'} of {stock_of(project, self.stock).name}"

    def changes(self, project: Project) -> Changes:
        stock = stock_of(project, self.stock)
        given = {name: getattr(self, name) for name in ("kerf", "up", "below", "made_for", "kerfs", "clearances")}
        said = {name: value for name, value in given.items() if value is not None}
        if self.straight:
            said["below"] = None
        if self.evenly:
            said["up"] = None
        return {"stocks": put(project.stocks, stock.with_known(project.machine, **said))}


class SetCutterWidth(Edit):
    """Sets how wide the cutter in use cuts a stock, as it goes round now or ``at`` another way; without a width nothing
    is known of that way any more.
    """

    do: Literal["set cutter width"]
    stock: Id
    width: Kerf | None = None
    at: RoutedAt | None = None

    def label(self, project: Project) -> str:
        return f"Width of cuts in {stock_of(project, self.stock).name}"

    def changes(self, project: Project) -> Changes:
        stock, cutter = stock_of(project, self.stock), cutter_in_use(project)
        if cutter is None:
            raise CannotApply("No cutter cuts parts out; choose one at Prepare.")
        at = self.at or goes_round(project, stock, cutter.id)
        if self.width is not None:
            kerf_width(self.width, "width of the cut")
            changed = stock.with_width(project.machine, CutterWidth(at=at, width=self.width))
        else:
            own = stock.own(project.machine)
            others = [one for one in (own.widths if own else []) if one.at != at]
            changed = stock.with_known(project.machine, widths=others)
        return {"stocks": put(project.stocks, changed)}

    def stock_to_keep(self, after: Project) -> Stock | None:
        """What a machine does to a stock is worth knowing everywhere."""
        return after.stock(self.stock)


class SetSetting(Edit):
    """Sets how the machine in use does one operation on a stock."""

    do: Literal["set setting"]
    stock: Id
    setting: Setting

    def label(self, project: Project) -> str:
        return f"{self.setting.operation} on {stock_of(project, self.stock).name}: {self.setting.speed:g} mm/s"

    def changes(self, project: Project) -> Changes:
        machine = machine_in_use(project)
        setting = self.setting
        if machine.kind == "router":
            _check_routed(project, setting)
        most = 100 if machine.kind == "beam" else machine.most
        unit = "%" if machine.kind == "beam" else "rpm"
        if setting.power > most:
            raise CannotApply(f"{machine.name} has at most {most:g} {unit}; {setting.power:g} is asked for.")
        if setting.speed > machine.working.speed:
            raise CannotApply(
                f"{machine.name} works at {machine.working.speed:g} mm/s at the most; {setting.speed:g} is asked for."
            )
        return {"stocks": put(project.stocks, with_setting(stock_of(project, self.stock), machine.id, setting))}

    def stock_to_keep(self, after: Project) -> Stock | None:
        """What was tried on a machine is worth knowing everywhere."""
        return after.stock(self.stock) if self.setting.tried else None


def _check_routed(project: Project, setting: Setting) -> None:
    """Raises `CannotApply` for what no cutter does."""
    if setting.stepdown <= 0:
        raise CannotApply("A stepdown of 0 never gets through the sheet; type how much deeper each pass goes.")
    if setting.power <= 0:
        raise CannotApply("At 0 rpm the cutter does not turn; type its revolutions a minute.")
    cutter = project.cutter(setting.cutter)
    if cutter is None:
        return
    longest = cutter_facts(cutter).cutting_length
    if setting.stepdown > longest:
        raise CannotApply(
            f"{cutter.name} cuts {shown(longest)} deep; a stepdown of {shown(setting.stepdown)} is asked for."
        )


class SettingsAs(Edit):
    """Takes the settings of another stock for this one, slower or faster by how much thicker or thinner it is."""

    do: Literal["settings as"]
    stock: Id
    like: Id

    def label(self, project: Project) -> str:
        return f"{stock_of(project, self.stock).name} as {stock_of(project, self.like).name}"

    def changes(self, project: Project) -> Changes:
        machine = machine_in_use(project)
        stock, like = stock_of(project, self.stock), stock_of(project, self.like)
        for setting in copied(like, stock, machine):
            stock = with_setting(stock, machine.id, setting)
        return {"stocks": put(project.stocks, stock)}


class LetSettingGo(Edit):
    """Lets go of an own setting: the starting value holds again."""

    do: Literal["let setting go"]
    stock: Id
    operation: Work
    cutter: Literal[""] | Id = ""

    def label(self, project: Project) -> str:
        return f"{self.operation} on {stock_of(project, self.stock).name}: starting value"

    def changes(self, project: Project) -> Changes:
        stock = stock_of(project, self.stock)
        gone = (self.operation, self.cutter)
        own = [s for s in _settings(stock, project.machine) if (s.operation, s.cutter) != gone]
        return {"stocks": put(project.stocks, stock.with_known(project.machine, settings=own))}


def with_setting(stock: Stock, machine: str, setting: Setting) -> Stock:
    """The stock with one setting of a machine put in the place of what it had for that operation."""
    which = (setting.operation, setting.cutter)
    others = [known for known in _settings(stock, machine) if (known.operation, known.cutter) != which]
    return stock.with_known(machine, settings=[*others, setting])


def _settings(stock: Stock, machine: str) -> list[Setting]:
    own = stock.own(machine)
    return own.settings if own else []


def stock_of(project: Project, stock_id: str) -> Stock:
    """The stock of an id. Raises `CannotApply` where it is gone."""
    stock = project.stock(stock_id)
    if stock is None:
        raise CannotApply(f"“{stock_id}” is not in the project any more.")
    return stock


def machine_in_use(project: Project) -> Machine:
    """The machine that the project is for. Raises `CannotApply` where none is chosen."""
    machine = project.machine_of(project.machine)
    if machine is None:
        raise CannotApply("No machine is chosen; settings belong to a machine, so choose one first.")
    return machine
