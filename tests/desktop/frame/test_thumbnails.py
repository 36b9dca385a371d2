"""Photos beside a finding."""


def test_a_photo_whose_name_leads_elsewhere_is_not_looked_for(bench, tmp_path):
    strip = bench.arrive.photos
    strip.show_photos(tmp_path, ("../../etc/passwd", "/etc/passwd", ".hidden.png"))
    assert strip._shown == ()
    strip.show_photos(tmp_path, ("0123456789abcdef0123456789abcdef.png",))
    assert [p.parent for p in strip._shown] == [tmp_path]
    strip.finish()
