# Files by a library of another origin (python3-meshio 5.0 and python3-h5py 3.7, Debian), for tests/data/foreign: one field in every kind it writes.
import sys, numpy, meshio, h5py
out = sys.argv[1]
n, d = (2, 2, 1), (0.1, 0.2, 0.3)
points = numpy.array([(i * d[0], j * d[1], k * d[2]) for k in range(n[2] + 1) for j in range(n[1] + 1) for i in range(n[0] + 1)])
at = lambda i, j, k: (k * (n[1] + 1) + j) * (n[0] + 1) + i
cells = numpy.array([[at(i, j, k), at(i + 1, j, k), at(i + 1, j + 1, k), at(i, j + 1, k), at(i, j, k + 1), at(i + 1, j, k + 1), at(i + 1, j + 1, k + 1), at(i, j + 1, k + 1)]
                     for k in range(n[2]) for j in range(n[1]) for i in range(n[0])])
T = 300 + 50 * points[:, 0] + 20 * points[:, 1] - 30 * points[:, 2]
mesh = meshio.Mesh(points, [("hexahedron", cells)], point_data={"T": T, "velocity": 2.0 * points},
                   cell_data={"heat_source": [numpy.arange(len(cells)) * 10.0 + 1]})
meshio.write(f"{out}/plate.vtu", mesh)
meshio.write(f"{out}/plate.vtk", mesh)
meshio.write(f"{out}/plate_42.vtk", mesh, file_format="vtk42")
meshio.write(f"{out}/plate.e", mesh, file_format="exodus")
meshio.write(f"{out}/plate.xdmf", mesh)
meshio.xdmf.write(f"{out}/plate_text.xdmf", mesh, data_format="XML")
meshio.xdmf.write(f"{out}/plate_binary.xdmf", mesh, data_format="Binary")
with meshio.xdmf.TimeSeriesWriter(f"{out}/plate_steps.xdmf") as steps:
    steps.write_points_cells(points, [("hexahedron", cells)])
    for t in [0.0, 0.5, 2.0]:
        steps.write_data(t, point_data={"T": T + 10 * t, "velocity": 2.0 * points}, cell_data={"heat_source": [numpy.arange(len(cells)) * 10.0 + 1]})

# VTK's HDF by its description: one grid in two pieces, and the same grid whole at three times.
def hdf(name, pieces, times):
    with h5py.File(f"{out}/{name}", "w") as file:
        root = file.create_group("VTKHDF")
        root.attrs["Version"] = numpy.array([2, 0])
        root.attrs.create("Type", numpy.bytes_("UnstructuredGrid"))
        parts = []
        for chosen in pieces:
            used = numpy.unique(cells[chosen])
            parts.append((used, numpy.searchsorted(used, cells[chosen])))
        root["NumberOfPoints"] = [len(used) for used, _ in parts]
        root["NumberOfCells"] = [len(own) for _, own in parts]
        root["NumberOfConnectivityIds"] = [own.size for _, own in parts]
        root["Points"] = numpy.concatenate([points[used] for used, _ in parts])
        root["Connectivity"] = numpy.concatenate([own.ravel() for _, own in parts])
        root["Offsets"] = numpy.concatenate([numpy.arange(len(own) + 1) * 8 for _, own in parts])
        root["Types"] = numpy.full(sum(len(own) for _, own in parts), 12, dtype="uint8")
        nodes = numpy.concatenate([used for used, _ in parts])
        order = numpy.concatenate([numpy.array(chosen) for chosen in pieces])
        steps = times or [0.0]
        root["PointData/T"] = numpy.concatenate([T[nodes] + 10 * t for t in steps])
        root["PointData/velocity"] = numpy.concatenate([2.0 * points[nodes] for t in steps])
        root["CellData/heat_source"] = numpy.concatenate([order * 10.0 + 1 for t in steps])
        if not times:
            return
        group = root.create_group("Steps")
        group.attrs["NSteps"] = len(times)
        group["Values"] = times
        for key in ["PartOffsets", "PointOffsets", "CellOffsets", "ConnectivityIdOffsets"]:
            group[key] = numpy.zeros(len(times), dtype="int64")
        group["NumberOfParts"] = numpy.full(len(times), len(parts))
        for key, names, each in [("PointDataOffsets", ["T", "velocity"], len(nodes)), ("CellDataOffsets", ["heat_source"], len(order))]:
            for one in names:
                group[f"{key}/{one}"] = numpy.arange(len(times)) * each
hdf("plate_pieces.vtkhdf", [[0, 1], [2, 3]], None)
hdf("plate_steps.vtkhdf", [[0, 1, 2, 3]], [0.0, 0.5, 2.0])
