"""Pictures on a certificate: taken at a reading, named by digest, upright, and said where they are not as they were kept."""

import io

import pypdf
import pytest
from PIL import Image

from candor.core.errors import CancelledError
from candor.notebook.arrive.photos import keep_picture
from candor.notebook.entries.arrive_entries import PhotoAdded
from candor.notebook.entries.entry import drafts_of
from candor.notebook.standards.standards import standards
from candor.notebook.work.job import fold
from candor.paper.certificate import certificate_pdf
from candor.paper.gather import make_certificate
from candor.paper.pictures import picture_block
from workbench import NOW, open_job, point_steps, reading


@pytest.fixture
def shown(notebook, pack):
    """A record with two pictures at its first point: one held upside right, one lying on its side by its own word."""
    standard = open_job(notebook, pack)
    notebook.append(drafts_of("job1", [reading(s, standard) for s in point_steps(pack)[:2]]))
    read = fold("job1", notebook.entries_of("job1")).calibrate.readings[0]
    for turned in (False, True):
        content, exif = io.BytesIO(), Image.Exif()
        exif[0x0112] = 6 if turned else 1  # EXIF 2.3, orientation: 6 is turned by a quarter
        Image.new("RGB", (1600, 1200), "#336655" if turned else "#663355").save(content, "JPEG", exif=exif)
        notebook.write(
            "job1",
            PhotoAdded(finding=read.entry.id, file=keep_picture(notebook.photo_folder, content.getvalue(), "p")),
        )
    job = fold("job1", notebook.entries_of("job1"))
    made = make_certificate(job=job, pack=pack, known=standards(notebook), shop="My Bench", who="tester", now=NOW)
    return made.record, notebook.photo_folder


def printed(record, folder):
    reader = pypdf.PdfReader(io.BytesIO(certificate_pdf(record, "", photos=folder)))
    images = [image.image.size for page in reader.pages for image in page.images]
    return images, "\n".join(page.extract_text() for page in reader.pages)


def test_what_was_seen_is_printed_upright_with_what_it_is_of(shown):
    record, folder = shown
    assert len(record.pictures) == 2
    images, text = printed(record, folder)
    assert images == [(1000, 750), (750, 1000)]  # turned as it was held
    assert "What was seen" in text
    assert f"{record.pictures[0].text} (entry {record.pictures[0].entry})" in " ".join(text.split())
    block = picture_block(record.pictures, folder, lambda: False)
    assert len(block) == 2  # a heading, and two beside each other
    with pytest.raises(CancelledError):
        picture_block(record.pictures, folder, lambda: True)


def test_a_picture_that_is_not_as_it_was_kept_is_said_and_not_shown(shown):
    record, folder = shown
    first, second = (folder / line.file for line in record.pictures)
    first.write_bytes(second.read_bytes())
    second.unlink()
    images, text = printed(record, folder)
    assert images == []
    assert " ".join(text.split()).count("is not beside the notebook, or is not as it was kept") == 2
    elsewhere = record.model_copy(update={"pictures": (record.pictures[0].model_copy(update={"file": "../x.jpg"}),)})
    assert printed(elsewhere, folder)[0] == []
