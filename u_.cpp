#include "/work/main/tests/support/gauges.cpp"
#include "/work/main/tests/support/hostile.cpp"
#include "/work/main/tests/support/meshes.cpp"
