"""An order of work walked through: ticked by whom and when, taken back, begun afresh."""

from __future__ import annotations

from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from cabrio.core.knowledge import knowledge
from cabrio.storage.models import TickRow, WalkRow
from tests.support.client import INES, OKE, PELL, ApiTestCase, Person

ORDER = "drag_build"
AT = "/api/cars/2/walks"


class Walks(ApiTestCase):
    def open(self, who: Person) -> Any:
        walks = who.ok("GET", AT)["walks"]
        return next((walk for walk in walks if walk["procedure"] == ORDER), None)

    def tick(self, who: Person, step: str, done: bool = True) -> None:
        who.ok("PUT", f"{AT}/ticks", {"procedure": ORDER, "step": step, "done": done})

    def test_steps_of_an_order_have_each_its_own_name(self) -> None:
        for procedure in knowledge().work.procedures:
            labels = [step.label for step in knowledge().work.steps_of(procedure.id)]
            self.assertEqual(len(labels), len(set(labels)), procedure.id)

    def test_ticked_once_taken_back_and_begun_afresh(self) -> None:
        crew, ines = self.person(OKE), self.person(INES)
        steps = [step.label for step in knowledge().work.steps_of(ORDER)]
        self.tick(crew, steps[0])
        self.tick(ines, steps[0])  # said twice it stands once, by who said it first
        self.tick(ines, steps[1])
        walk = self.open(self.person(PELL))
        self.assertEqual(
            [(one["step"], one["by"]) for one in walk["ticks"]],
            [(steps[0], "Oke Sandiford"), (steps[1], walk["ticks"][1]["by"])],
        )
        self.tick(ines, steps[0], done=False)
        self.assertEqual([one["step"] for one in self.open(crew)["ticks"]], [steps[1]])
        self.tick(crew, steps[0])
        crew.ok("POST", AT, {"procedure": ORDER})
        self.assertEqual(self.open(crew)["ticks"], [])
        crew.ok("POST", AT, {"procedure": ORDER})  # one that has no tick yet is not begun again
        with Session(self.engine) as db:
            walks = db.scalars(select(WalkRow).where(WalkRow.procedure == ORDER)).all()
            self.assertEqual([one.ended_at is None for one in walks], [False, True])
            kept = db.scalars(select(TickRow).where(TickRow.walk_id == walks[0].id)).all()
            # every tick is kept, the one taken back with who did that
            self.assertEqual(len(kept), 3)
            self.assertEqual(sum(one.undone_by is not None for one in kept), 1)

    def test_what_this_car_does_not_have_is_refused(self) -> None:
        crew = self.person(OKE)
        for body, said in (
            ({"procedure": "circuit_build", "step": "Pads"}, "no order of work"),
            ({"procedure": ORDER, "step": "Tea"}, "no step"),
        ):
            told = crew.refused(422, "PUT", f"{AT}/ticks", body)
            self.assertIn(said, told["detail"])
        crew.refused(422, "POST", AT, {"procedure": "nothing"})
