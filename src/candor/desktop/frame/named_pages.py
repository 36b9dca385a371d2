"""The pages by name and type, for who joins one to another."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from candor.desktop.frame.pages import Pages

if TYPE_CHECKING:  # made when they are first entered
    from candor.desktop.rooms.from_file import FromFilePage
    from candor.desktop.rooms.newjob import NewJobPage
    from candor.desktop.rooms.notebook_room import NotebookPage
    from candor.desktop.rooms.settings_room import LookPage
    from candor.desktop.rooms.stock_room import StockPage
    from candor.desktop.rooms.tubes_room import TubesPage
    from candor.desktop.stops.arrive.arrive_page import ArrivePage
    from candor.desktop.stops.calibrate.calibrate_page import CalibratePage
    from candor.desktop.stops.parts.parts_page import PartsPage
    from candor.desktop.stops.power.power_page import PowerPage
    from candor.desktop.stops.release.release_page import ReleasePage
    from candor.desktop.stops.soak.soak_page import SoakPage
    from candor.desktop.stops.trace.trace_page import TracePage


class NamedPages:
    """Every page that another part of the window must know by its own type."""

    stops: Pages
    rooms: Pages

    @property
    def arrive(self) -> ArrivePage:
        """The page of the stop Arrive."""
        return cast("ArrivePage", self.stops["arrive"])

    @property
    def parts(self) -> PartsPage:
        """The page of the stop Parts."""
        return cast("PartsPage", self.stops["parts"])

    @property
    def power(self) -> PowerPage:
        """The page of the stop Power."""
        return cast("PowerPage", self.stops["power"])

    @property
    def trace(self) -> TracePage:
        """The page of the stop Trace."""
        return cast("TracePage", self.stops["trace"])

    @property
    def calibrate(self) -> CalibratePage:
        """The page of the stop Calibrate."""
        return cast("CalibratePage", self.stops["calibrate"])

    @property
    def soak(self) -> SoakPage:
        """The page of the stop Soak."""
        return cast("SoakPage", self.stops["soak"])

    @property
    def release(self) -> ReleasePage:
        """The page of the stop Release."""
        return cast("ReleasePage", self.stops["release"])

    @property
    def tubes(self) -> TubesPage:
        """The page of the room Tubes."""
        return cast("TubesPage", self.rooms["tubes"])

    @property
    def stock(self) -> StockPage:
        """The page of the room Stock."""
        return cast("StockPage", self.rooms["stock"])

    @property
    def new_job(self) -> NewJobPage:
        """The page of the room New job."""
        return cast("NewJobPage", self.rooms["new job"])

    @property
    def notebook(self) -> NotebookPage:
        """The room of the notebook as a whole."""
        return cast("NotebookPage", self.rooms["notebook"])

    @property
    def look(self) -> LookPage:
        """The page of the room Look."""
        return cast("LookPage", self.rooms["look"])

    @property
    def from_file(self) -> FromFilePage:
        """The page that shows how a file is understood."""
        return cast("FromFilePage", self.rooms["from file"])
