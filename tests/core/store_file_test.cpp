// The file under the case store: what is written comes back; what fails leaves nothing behind.
#include "core/case/array_file.h"
#include "tests/support/small_disk.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>
#include <numeric>

using namespace pyro;
using namespace pyro::test;

namespace {

void fillHalves(std::span<double> room) {
    for (std::size_t i = 0; i < room.size(); ++i)
        room[i] = 0.5 * static_cast<double>(i);
}

// Writes a megabyte where the system allows half of one, as on a full disk.
[[noreturn]] void writeBeyondTheAllowedSize(const std::filesystem::path& file) {
    const SmallDisk disk(1U << 19);
    ArrayFileWriter writer(file);
    fillHalves(writer.space<double>("x", 1U << 17)); // no room: nothing to fill
    const auto done = writer.finish({});
    const bool told = !done && done.error().code == ErrorCode::WriteFailed && !done.error().remedy.empty();
    const bool nothingLeft = std::filesystem::is_empty(file.parent_path());
    std::filesystem::remove_all(file.parent_path());
    std::_Exit(told && nothingLeft ? 7 : 1);
}

} // namespace

TEST(ArrayFile, BringsArraysBack) {
    const TempFolder folder;
    std::vector<std::uint32_t> numbers(300'000);
    std::iota(numbers.begin(), numbers.end(), 5U);
    {
        ArrayFileWriter writer(folder / "a.store");
        writer.add("numbers", std::span<const std::uint32_t>(numbers));
        fillHalves(writer.space<double>("halves", 100'001));
        writer.add("none", std::span<const float>());
        EXPECT_FALSE(std::filesystem::exists(folder / "a.store")) << "nothing stands there before it is whole";
        ASSERT_TRUE(writer.finish({{"answer", 42}}));
    }
    const auto file = ArrayFile::open(folder / "a.store");
    ASSERT_TRUE(file);
    EXPECT_EQ((*file)->meta().at("answer"), 42);
    const auto back = (*file)->array<std::uint32_t>("numbers");
    EXPECT_TRUE(std::equal(back.begin(), back.end(), numbers.begin(), numbers.end()));
    EXPECT_EQ(reinterpret_cast<std::uintptr_t>((*file)->array<double>("halves").data()) % 64, 0U);
    ASSERT_EQ((*file)->reals("halves").size(), 100'001U);
    for (const std::size_t at : {0U, 1000U, 32767U, 32768U, 100'000U})
        EXPECT_DOUBLE_EQ((*file)->reals("halves")[at], 0.5 * static_cast<double>(at));
    EXPECT_TRUE((*file)->contains("none"));
    EXPECT_TRUE((*file)->array<float>("none").empty());
    EXPECT_TRUE((*file)->array<float>("numbers").empty()) << "another type is not reinterpreted";
    EXPECT_FALSE((*file)->contains("absent"));
}

TEST(ArrayFile, AnAbandonedWriterLeavesNothing) {
    const TempFolder folder;
    {
        ArrayFileWriter writer(folder / "a.store");
        fillHalves(writer.space<double>("x", 10));
    }
    EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

TEST(ArrayFile, AFolderThatIsNotThereIsAnError) {
    const TempFolder folder;
    ArrayFileWriter writer(folder / "no such folder/a.store");
    EXPECT_TRUE(writer.space<double>("x", 10).empty());
    const auto done = writer.finish({});
    ASSERT_FALSE(done);
    EXPECT_EQ(done.error().code, ErrorCode::WriteFailed);
    EXPECT_FALSE(done.error().remedy.empty());
}

TEST(ArrayFile, AFullDiskIsAnErrorAndLeavesNothing) {
    testing::FLAGS_gtest_death_test_style = "threadsafe";
    const TempFolder folder;
    EXPECT_EXIT(writeBeyondTheAllowedSize(folder / "a.store"), testing::ExitedWithCode(7), "");
}

TEST(ArrayFile, DamagedFilesAreNotOpened) {
    const TempFolder folder;
    {
        ArrayFileWriter writer(folder / "a.store");
        writer.add("x", std::span<const double>(std::vector<double>(1000, 1.5)));
        ASSERT_TRUE(writer.finish({{"k", 1}}));
    }
    const auto whole = readText(folder / "a.store");
    EXPECT_EQ(ArrayFile::open(folder / "none.store").error().code, ErrorCode::FileMissing);
    for (const std::size_t size :
         {std::size_t{0}, std::size_t{7}, std::size_t{40}, whole.size() / 2, whole.size() - 1}) {
        SCOPED_TRACE(size);
        writeText(folder / "b.store", whole.substr(0, size));
        EXPECT_FALSE(ArrayFile::open(folder / "b.store"));
    }
    auto other = whole;
    other[0] = 'X';
    writeText(folder / "b.store", other);
    EXPECT_EQ(ArrayFile::open(folder / "b.store").error().code, ErrorCode::WrongVersion);
}
