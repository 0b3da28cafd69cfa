"""The JSON Schemas of docs/ hold for what is shipped and what is written, and refuse what is wrong.
Arguments: the project's folder, the folder of the built programs."""
import json
import pathlib
import subprocess
import sys
import tempfile

import jsonschema

root, programs = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
load = lambda file: json.loads(pathlib.Path(file).read_text())
survey_schema = load(root / "docs/survey.schema.json")
readings_schema = load(root / "docs/readings.schema.json")
rig_schema = load(root / "docs/rig.schema.json")

RIG = {
    "rig": 1,
    "grid": {axis: {"spacing": 0.05} for axis in "xyz"},
    "materials": {"brick": {"conductivity": "1 W/(m.K)"}},
    "boxes": [{"part": "wall", "material": "brick", "from": [0, 0, 0], "to": [0.2, 0.1, 0.1]}],
    "environments": [
        {"boundary": "warm", "temperature": "20 degC", "surface_resistance": "0.13 m2.K/W", "faces": [{"side": "-x"}]},
        {"boundary": "cold", "temperature": "0 degC", "surface_resistance": "0.04 m2.K/W", "faces": [{"side": "+x"}]},
    ],
}
SURVEY = {
    "pyrometer": 1,
    "cases": [{"name": "wall", "file": "wall.vtm", "quantities": {"pressure": None}}, {"name": "gone", "file": "gone.vtu"}],
    "gauges": [
        {"id": "Q", "where": {"boundary": "cold"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "L", "quantity": "coupling_coefficient", "where": {"environments": ["warm", ["cold"]]}},
        {"id": "none", "where": {"part": "absent"}, "quantity": "temperature"},
    ],
    "limits": [{"part": "wall", "max": "30 degC", "margin": 5}, {"part": "absent", "max": "30 degC"}],
}


def refused(schema, document):
    return not jsonschema.Draft7Validator(schema).is_valid(document)


for file in (root / "demos").glob("*/*.survey.json"):
    jsonschema.validate(load(file), survey_schema)
for file in (root / "demos").glob("*/*.rig.json"):
    jsonschema.validate(load(file), rig_schema)
jsonschema.validate(RIG, rig_schema)
assert refused(rig_schema, {**RIG, "boxs": []})
assert refused(rig_schema, {**RIG, "environments": [{"boundary": "warm", "faces": [{"side": "+x"}]}]})
jsonschema.validate(SURVEY, survey_schema)
assert refused(survey_schema, {**SURVEY, "limits": [{"part": "a", "boundary": "b", "max": "1 K"}]})
assert refused(survey_schema, {**SURVEY, "cases": [{"name": "wall"}]})
assert refused(survey_schema, {**SURVEY, "pyrometer": 2})

with tempfile.TemporaryDirectory() as name:
    folder = pathlib.Path(name)
    (folder / "wall.rig.json").write_text(json.dumps(RIG))
    (folder / "s.survey.json").write_text(json.dumps(SURVEY))
    subprocess.run([programs / "pyrometer-rig", folder / "wall.rig.json", "-o", folder / "wall.vtm"], check=True)
    run = subprocess.run([programs / "pyrometer-cli", "evaluate", folder / "s.survey.json", "--json", folder / "r.json"])
    assert run.returncode == 2, run.returncode  # one case is missing
    readings = load(folder / "r.json")
    jsonschema.validate(readings, readings_schema)
    assert "error" in readings["cases"][1]
    assert readings["cases"][0]["steps"][0]["gauges"][1]["terms"][0]["name"] == "L3D", readings["cases"][0]["steps"][0]["gauges"][1]
    assert [one["origin"] for one in readings["cases"][0]["steps"][0]["environments"]] == ["case", "case"]
    assert refused(readings_schema, {**readings, "verdict": "fine"})
print("schemas hold")
