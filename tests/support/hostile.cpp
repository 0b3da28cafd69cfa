#include "tests/support/hostile.h"

#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <limits>

namespace pyro::test {
namespace {

// One hexahedron in ASCII; `replace` swaps one piece of it for another.
const char* const sound = R"(<?xml version="1.0"?>
<VTKFile type="UnstructuredGrid" version="1.0" byte_order="LittleEndian">
<UnstructuredGrid><Piece NumberOfPoints="8" NumberOfCells="1">
<PointData><DataArray type="Float64" Name="T" format="ascii">300 301 300.5 300 300 301 300 300</DataArray></PointData>
<CellData><DataArray type="Float64" Name="density" format="ascii">2700</DataArray></CellData>
<Points>
<DataArray type="Float64" NumberOfComponents="3" format="ascii">0 0 0 1 0 0 1 1 0 0 1 0 0 0 1 1 0 1 1 1 1 0 1 1
</DataArray>
</Points><Cells><DataArray type="Int64" Name="connectivity" format="ascii">0 1 2 3 4 5 6 7</DataArray>
<DataArray type="Int64" Name="offsets" format="ascii">8</DataArray>
<DataArray type="UInt8" Name="types" format="ascii">12</DataArray></Cells>
</Piece></UnstructuredGrid></VTKFile>
)";

std::string with(const std::string& piece, const std::string& instead) {
    std::string text = sound;
    const auto at = text.find(piece);
    if (at == std::string::npos)
        throw std::logic_error("no such piece: " + piece);
    return text.replace(at, piece.size(), instead);
}

std::string vtm(const std::string& parts, const std::string& boundaries = "") {
    return "<?xml version=\"1.0\"?>\n<VTKFile type=\"vtkMultiBlockDataSet\" version=\"1.0\"><vtkMultiBlockDataSet>"
           "<Block index=\"0\" name=\"parts\">" +
           parts + "</Block><Block index=\"1\" name=\"boundaries\">" + boundaries +
           "</Block></vtkMultiBlockDataSet></VTKFile>\n";
}

std::string block(const std::string& name, const std::string& file) {
    return "<DataSet index=\"0\" name=\"" + name + "\" file=\"" + file + "\"/>";
}

class Maker {
public:
    explicit Maker(std::filesystem::path folder) : m_folder(std::move(folder)) {}

    std::vector<HostileFile> run() {
        notEvenGrids();
        sizes();
        indices();
        numbers();
        binaries();
        blocks();
        survivors();
        return std::move(m_files);
    }

private:
    void add(const std::string& name, std::vector<std::string> errors, const std::string& remark = {}) {
        m_files.push_back({name, m_folder / name, std::move(errors), remark});
    }
    void text(const std::string& name, const std::string& content, std::vector<std::string> errors,
              const std::string& remark = {}) {
        writeText(m_folder / name, content);
        add(name, std::move(errors), remark);
    }

    void notEvenGrids() {
        add("missing.vtu", {"file-missing"});
        text("empty.vtu", "", {"file-empty"});
        std::filesystem::create_directories(m_folder / "folder.vtu");
        add("folder.vtu", {"file-unreadable"});
        text("words.vtu", "temperature everywhere 300 K\n", {"file-unreadable"});
        std::string noise;
        for (unsigned i = 0; i < 4096; ++i)
            noise += static_cast<char>((i * 2654435761U) >> 13);
        text("noise.vtu", noise, {"file-unreadable"});
        text("page.vtu", "<html><body>not found</body></html>", {"file-unreadable"});
        text("table.xyz", "1 2 3\n", {"format-unknown"});
        text("image.vtu",
             R"(<VTKFile type="ImageData" version="1.0"><ImageData WholeExtent="0 1 0 1 0 1"></ImageData></VTKFile>)",
             {"format-unknown"});
        text("hollow.vtu",
             R"(<VTKFile type="UnstructuredGrid" version="1.0"><UnstructuredGrid></UnstructuredGrid></VTKFile>)",
             {"no-cells"});
        text("entities.vtu",
             "<?xml version=\"1.0\"?><!DOCTYPE x [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;\">"
             "<!ENTITY c \"&b;&b;&b;&b;&b;&b;&b;&b;\"><!ENTITY d \"&c;&c;&c;&c;&c;&c;&c;&c;\">"
             "<!ENTITY e \"&d;&d;&d;&d;&d;&d;&d;&d;\"><!ENTITY f \"&e;&e;&e;&e;&e;&e;&e;&e;\">"
             "<!ENTITY g \"&f;&f;&f;&f;&f;&f;&f;&f;\"><!ENTITY h \"&g;&g;&g;&g;&g;&g;&g;&g;\">]>"
             "<VTKFile type=\"UnstructuredGrid\"><x>&h;</x></VTKFile>",
             {"file-unreadable", "no-cells"});
        text("unclosed.vtu", with("</Piece>", ""), {"file-unreadable"});
        text("cut.vtu", std::string(sound).substr(0, 700), {"file-truncated"});
    }

    void sizes() {
        text("points-1e15.vtu", with("NumberOfPoints=\"8\"", "NumberOfPoints=\"1000000000000000\""), {"size-absurd"});
        text("cells-1e15.vtu", with("NumberOfCells=\"1\"", "NumberOfCells=\"1000000000000000\""), {"size-absurd"});
        text("points-2e64.vtu", with("NumberOfPoints=\"8\"", "NumberOfPoints=\"18446744073709551615\""),
             {"size-absurd"});
        text("components-1e12.vtu", with("Name=\"T\"", "Name=\"T\" NumberOfComponents=\"1000000000000\""),
             {"size-absurd"});
        text("points-minus.vtu", with("NumberOfPoints=\"8\"", "NumberOfPoints=\"-8\""), {"syntax"});
        text("points-word.vtu", with("NumberOfPoints=\"8\"", "NumberOfPoints=\"eight\""), {"syntax"});
        text("points-fewer.vtu", with("NumberOfPoints=\"8\"", "NumberOfPoints=\"7\""), {"length-mismatch"});
        text("cells-more.vtu", with("NumberOfCells=\"1\"", "NumberOfCells=\"3\""), {"length-mismatch"});
        text("field-short.vtu", with("300 301 300.5", "300 301"), {"length-mismatch"});
        text("field-long.vtu", with("300 301 300.5", "300 301 300.5 300.7"), {"length-mismatch"});
    }

    void indices() {
        text("index-high.vtu", with("0 1 2 3 4 5 6 7<", "0 1 2 3 4 5 6 70<"), {"index-out-of-range"});
        text("index-huge.vtu", with("0 1 2 3 4 5 6 7<", "0 1 2 3 4 5 6 4611686018427387904<"), {"index-out-of-range"});
        text("index-minus.vtu", with("0 1 2 3 4 5 6 7<", "0 1 2 3 4 5 6 -7<"), {"index-out-of-range"});
        text("offset-high.vtu", with(">8</DataArray>", ">800</DataArray>"), {"length-mismatch", "file-unreadable"});
        text("offset-minus.vtu", with(">8</DataArray>", ">-8</DataArray>"), {"length-mismatch", "file-unreadable"});
        text("offset-short.vtu", with(">8</DataArray>", ">6</DataArray>"), {"length-mismatch", "file-unreadable"});
        text("type-unknown.vtu", with(">12</DataArray>", ">99</DataArray>"), {"not-supported"});
        text("type-other.vtu", with(">12</DataArray>", ">10</DataArray>"), {"length-mismatch"});
        text("vertices.vtu", with(">12</DataArray>", ">2</DataArray>"), {"no-cells"});
        // A polyhedron whose face list points nowhere: VTK itself may fall over here.
        text("polyhedron.vtu",
             with(">12</DataArray></Cells>",
                  ">42</DataArray><DataArray type=\"Int64\" Name=\"faces\" format=\"ascii\">6 4 0 1 2 900000000 4 4 5 "
                  "6 7</DataArray>"
                  "<DataArray type=\"Int64\" Name=\"faceoffsets\" format=\"ascii\">10</DataArray></Cells>"),
             {"index-out-of-range", "reader-crashed", "file-unreadable", "length-mismatch"});
        text("polyhedron-no-faces.vtu", with(">12</DataArray></Cells>", ">42</DataArray></Cells>"),
             {"index-out-of-range", "reader-crashed", "file-unreadable", "length-mismatch"});
    }

    void numbers() {
        text("word-in-field.vtu", with("300.5", "warm"), {"syntax"});
        text("word-in-points.vtu", with("0 0 0 1 0 0", "0 0 0 x 0 0"), {"syntax"});
        text("nan-in-points.vtu", with("0 0 0 1 0 0", "0 0 0 nan 0 0"), {"syntax"});
    }

    void binaries() {
        auto part = boxPart("block", {{1, 1, 1}, {12, 12, 12}});
        addNodeField(part, "T", [](const Point& at) { return 300 + std::sin(40 * at[0]) + at[1]; });
        (void)writeBlock(part, m_folder / "good.bin", Encoding::Appended);
        const auto packed = readText(m_folder / "good.bin");
        text("packed-cut.vtu", packed.substr(0, packed.size() / 2), {"file-truncated"});
        auto flipped = packed;
        for (auto at = packed.find("<AppendedData") + 200; at + 200 < packed.size(); at += 97)
            flipped[at] = static_cast<char>(~flipped[at]);
        text("packed-flipped.vtu", flipped,
             {"file-unreadable", "index-out-of-range", "length-mismatch", "reader-crashed", "memory-limit"});
        (void)writeBlock(part, m_folder / "raw.bin", Encoding::Raw);
        const auto raw = readText(m_folder / "raw.bin");
        text("raw-cut.vtu", raw.substr(0, raw.size() / 2), {"file-truncated"});
        // Half of the data is gone, but the end looks whole.
        text("raw-gap.vtu", raw.substr(0, raw.find("<AppendedData") + 400) + raw.substr(raw.size() - 60),
             {"file-truncated", "file-unreadable", "length-mismatch"});
        text("base64.vtu",
             with("format=\"ascii\">300 301 300.5 300 300 301 300 300", "format=\"binary\">QUJD!!!!notbase64"),
             {"file-unreadable", "length-mismatch", "reader-crashed", "file-truncated", "size-absurd"});
        // A block of base64: eight bytes of its length, then numbers.
        const auto inlined = [](const std::string& characters, const std::string& root = "") {
            auto text = with("format=\"ascii\">300 301 300.5 300 300 301 300 300", "format=\"binary\">" + characters);
            return text.replace(text.find("version=", text.find("<VTKFile")), 0, "header_type=\"UInt64\" " + root);
        };
        text(
            "base64-4TiB.vtu",
            inlined("AAAAAAAEAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"),
            {"size-absurd"});
        text("base64-short.vtu",
             inlined("QAAAAAAAAAAAAAAAAMByQAAAAAAAwHJAAAAAAADAckAAAAAAAMByQAAAAAAAwHJAAAAAAADAckAAAAAAAMByQA=="),
             {"file-truncated"});
        text("base64-seven.vtu",
             inlined("OAAAAAAAAAAAAAAAAMByQAAAAAAAwHJAAAAAAADAckAAAAAAAMByQAAAAAAAwHJAAAAAAADAckAAAAAAAMByQA=="),
             {"length-mismatch"});
        text("base64-packed.vtu",
             inlined("AQAAAAAAAABAAAAAAAAAAAAAAAAAAAAAiBMAAAAAAAA=eHh4eHh4eHh4eHh4eHh4eHh4eHh4eHh4",
                     "compressor=\"vtkZLibDataCompressor\" "),
             {"file-truncated"});
        // The length of the first appended block, which follows the underscore, and an offset beyond all of them.
        auto declared = raw;
        declared.replace(declared.find('_', declared.find("<AppendedData")) + 1, 4, "\xff\xff\xff\x7f");
        text("raw-declares.vtu", declared, {"size-absurd", "file-truncated"});
        auto offset = raw;
        const auto at = offset.find("offset=\"", offset.find("<Cells>"));
        offset.replace(at + 8, offset.find('"', at + 8) - at - 8, "99999999");
        text("raw-offset.vtu", offset, {"size-absurd", "file-truncated"});
    }

    void blocks() {
        std::filesystem::create_directories(m_folder / "inside");
        writeText(m_folder / "inside/sound.vtu", sound);
        writeText(m_folder / "inside/cut.vtu", std::string(sound).substr(0, 700));
        const auto good = block("block", "inside/sound.vtu");
        text("noise.vtm", noiseText(), {"file-unreadable"});
        text("no-blocks.vtm", vtm(""), {"no-cells"});
        text("all-missing.vtm", vtm(block("a", "inside/a.vtu")), {"no-cells"});
        text("cut-block.vtm", vtm(good + block("b", "inside/cut.vtu")), {"file-truncated"});
        text("one-missing.vtm", vtm(good + block("b", "inside/gone.vtu")), {}, "block-missing");
        text("up-and-out.vtm", vtm(good + block("b", "../../../etc/passwd.vtu")), {}, "block-outside");
        text("absolute.vtm", vtm(good + block("b", "/etc/passwd")), {}, "block-outside");
        std::error_code ignored;
        std::filesystem::create_directories(m_folder / "linked");
        writeText(m_folder / "outside.vtu", sound);
        writeText(m_folder / "linked/sound.vtu", sound);
        std::filesystem::create_symlink(m_folder / "outside.vtu", m_folder / "linked/link.vtu", ignored);
        text("linked/link-out.vtm", vtm(block("block", "sound.vtu") + block("b", "link.vtu")), {}, "block-outside");
        text("twins.vtm", vtm(good + good), {}, "duplicate-name");
        text("other-format.vtm", vtm(good + block("b", "inside/sound.vtu.vti")), {}, "block-missing");
        BlockData side = boxSide("side", {}, 0, true);
        (void)writeBlock(side, m_folder / "inside/side.vtp");
        text("only-boundaries.vtm", vtm("", block("side", "inside/side.vtp")), {"no-cells"});
    }

    static std::string noiseText() { return std::string("\x01\x02\xff\xfe<", 5) + std::string(300, '>'); }

    void survivors() {
        text("nan.vtu", with("300.5", "nan"), {}, "not-finite");
        text("infinite.vtu", with("300.5", "-inf"), {}, "not-finite");
        auto part = boxPart("block", {});
        addNodeField(part, "T",
                     [](const Point& at) { return at[0] > 0.9 ? std::numeric_limits<double>::quiet_NaN() : 300; });
        (void)writeBlock(part, m_folder / "nan-binary.vtu");
        add("nan-binary.vtu", {}, "not-finite");
        text("no-temperature.vtu", with("Name=\"T\"", "Name=\"wall distance\""), {}, "no-temperature");
        text("flat-cell.vtu", with("0 0 1 1 0 1 1 1 1 0 1 1", "0 0 0 1 0 0 1 1 0 0 1 0"), {}, "flawed-cells");
    }

    std::filesystem::path m_folder;
    std::vector<HostileFile> m_files;
};

} // namespace

std::vector<HostileFile> makeHostileFiles(const std::filesystem::path& folder) { return Maker(folder).run(); }
std::string soundGrid() { return sound; }

} // namespace pyro::test
