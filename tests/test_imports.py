"""No module needs one that needs it: also imports for types alone count."""

import graphlib

import grimp


def test_modules_form_no_cycle():
    graph = grimp.build_graph("candor", exclude_type_checking_imports=False, cache_dir=None)
    needs = {module: graph.find_modules_directly_imported_by(module) for module in graph.modules}
    assert len(needs) > 150
    try:
        graphlib.TopologicalSorter(needs).prepare()
    except graphlib.CycleError as error:
        raise AssertionError(" needs ".join(reversed(error.args[1]))) from None
