"""What a finding means where the checklist of its zone says so."""

from candor.notebook.work.checklists import meaning
from candor.packs.kinds_of_instrument import shipped_kinds
from candor.packs.model import Zone

ZONES = (
    Zone(
        key="cord",
        title="Cord",
        look_for=("cord perished",),
        means={"cord": "look closer", "cord perished": "a new cord"},
    ),
)


def test_the_item_with_the_most_words_says_it_whatever_their_order():
    assert meaning(ZONES, "cord", "perished, the whole cord") == "a new cord"
    assert meaning(ZONES, "cord", "cords cut") == "look closer"
    assert meaning(ZONES, "cord", "plug loose") == ""
    assert meaning(ZONES, "face", "cord perished") == ""


def test_every_meaning_of_the_shipped_kinds_is_of_something_on_its_checklist():
    for kind in shipped_kinds().values():
        for zone in kind.zones:
            for item in zone.means:
                assert meaning(kind.zones, zone.key, item) == zone.means[item], (kind.id, zone.key, item)
                assert item in zone.look_for, (kind.id, zone.key, item)
