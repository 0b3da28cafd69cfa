# Cases in two dimensions by two libraries of another origin (python3-dolfinx 0.5 and python3-meshio 5.0, Debian), for tests/data/foreign:
# a plate of 60 x 40 mm, 300 K + 1000 K/m x.
import sys, numpy, meshio
from mpi4py import MPI
from dolfinx import mesh, fem, io
out = sys.argv[1]
comm = MPI.COMM_WORLD
plate = mesh.create_rectangle(comm, [[0, 0], [0.06, 0.04]], [6, 4], mesh.CellType.triangle)

def field(family, order):
    T = fem.Function(fem.FunctionSpace(plate, (family, order)))
    T.name = "Temperature"
    T.interpolate(lambda x: 300 + 1000 * x[0])
    return T

plate.topology.create_connectivity(1, 2)
left = mesh.locate_entities_boundary(plate, 1, lambda x: numpy.isclose(x[0], 0))
right = mesh.locate_entities_boundary(plate, 1, lambda x: numpy.isclose(x[0], 0.06))
both = numpy.concatenate([left, right])
marks = numpy.concatenate([numpy.full(len(left), 1), numpy.full(len(right), 2)]).astype(numpy.int32)
order = numpy.argsort(both)
edges = mesh.meshtags(plate, 1, both[order].astype(numpy.int32), marks[order])
edges.name = "edges"
with io.XDMFFile(comm, f"{out}/plane_marked.xdmf", "w") as file:
    file.write_mesh(plate)
    file.write_meshtags(edges)
    file.write_function(field("CG", 1))
for name, T in [("plane_torn", field("DG", 1)), ("plane_curved", field("CG", 2))]:
    with io.VTKFile(comm, f"{out}/{name}.pvd", "w") as file:
        file.write_function(T, 0.0)

points = numpy.array([[0.01 * i, 0.01 * j, 0] for j in range(5) for i in range(7)])
triangles = [cell for j in range(4) for i in range(6) for a in [7 * j + i] for cell in ([a, a + 1, a + 8], [a, a + 8, a + 7])]
lines = [[7 * j, 7 * (j + 1)] for j in range(4)]
marked = meshio.Mesh(points, [("triangle", numpy.array(triangles)), ("line", numpy.array(lines))], point_data={"Temperature": 300 + 1000 * points[:, 0]},
                     cell_data={"gmsh:physical": [numpy.full(len(triangles), 1, dtype="int32"), numpy.full(len(lines), 9, dtype="int32")]})
for ending in ["vtk", "vtu", "e"]:
    meshio.write(f"{out}/plane_mixed.{ending}", marked)
