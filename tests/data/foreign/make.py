# Files by a library of another origin (python3-meshio 5.0, Debian), for tests/data/foreign: one field in every kind it writes.
import sys, numpy, meshio
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
