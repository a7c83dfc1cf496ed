#include "core/schedule/schedule.hpp"

#include <catch2/catch.hpp>

#include <random>

using namespace fulmox;

namespace {

Block block(const std::string& name, std::size_t axis, std::vector<double> ends, double offset = 0.0) {
  Block out;
  out.name = name;
  out.axis = axis;
  out.ends = std::move(ends);
  out.offset = offset;
  return out;
}

} // namespace

TEST_CASE("blocks start as early as what they wait for allows") {
  std::vector<Block> all{block("A", 0, {0.2, 1.0}), block("B", 1, {0.5}, 0.1), block("C", 2, {0.3})};
  all[1].after.push_back({0, 0, 0.05}); // after A's first segment and 50 ms
  all[0].repeats = 2;
  all[2].after.push_back({1, 0, 0.0});
  all[2].after.push_back({0, 1, 0.0});
  const auto placed = place(all);
  REQUIRE(placed);
  CHECK(placed->blocks[0].start == 0.0);
  CHECK(placed->blocks[1].start == Approx(1.0 + 0.2 + 0.05 + 0.1)); // in A's last repeat
  CHECK(placed->blocks[2].start == Approx(2.0));                    // both must have come
  CHECK(placed->cycle == Approx(2.3));
  CHECK(placed->shortest == Approx(2.3));
  CHECK(placed->blocks[0].slack == Approx(0.0));
  CHECK(placed->blocks[1].slack == Approx(0.15)); // C waits for A as well
  CHECK(placed->blocks[2].slack == Approx(0.0));
}

TEST_CASE("a delay within the slack costs nothing, beyond it a second a second") {
  std::mt19937 engine(4);
  std::uniform_real_distribution<double> time(0.1, 1.0);
  for (int round = 0; round < 50; ++round) {
    std::vector<Block> all;
    for (std::size_t i = 0; i < 6; ++i) {
      Block b = block(std::string(1, static_cast<char>('A' + i)), i, {time(engine)}, 0.1 * time(engine));
      if (i > 0 && engine() % 3 != 0) b.after.push_back({engine() % i, 0, 0.0});
      all.push_back(std::move(b));
    }
    const auto placed = place(all);
    REQUIRE(placed);
    for (std::size_t i = 0; i < all.size(); ++i) {
      std::vector<Block> later = all;
      const double slack = placed->blocks[i].slack;
      later[i].offset += slack;
      CHECK(place(later)->cycle == Approx(placed->cycle));
      later[i].offset += 0.25;
      CHECK(place(later)->cycle == Approx(placed->cycle + 0.25));
    }
  }
}

TEST_CASE("circles are refused by name, and so is what waits for nothing that is there") {
  std::vector<Block> all{block("A", 0, {1.0}), block("B", 1, {1.0}), block("C", 2, {1.0}),
                         block("D", 3, {1.0})};
  all[0].after.push_back({3, 0, 0.0});
  all[3].after.push_back({2, 0, 0.0});
  all[2].after.push_back({1, 0, 0.0});
  CHECK(place(all));
  all[1].after.push_back({0, 0, 0.0});
  const auto circle = place(all);
  REQUIRE_FALSE(circle);
  CHECK(circle.problem().text().find("A → D → C → B → A") != std::string::npos);
  CHECK(circle.problem().remedy.find("two blocks") != std::string::npos);

  std::vector<Block> one{block("A", 0, {1.0, 2.0})};
  one[0].after.push_back({0, 0, 0.0});
  CHECK(place(one).problem().what.find("itself") != std::string::npos);
  one[0].after[0].block = 7;
  CHECK_FALSE(place(one));
  std::vector<Block> two{block("A", 0, {1.0, 2.0}), block("B", 1, {1.0})};
  two[1].after.push_back({0, 2, 0.0});
  CHECK(place(two).problem().what.find("segment 3") != std::string::npos);
}

TEST_CASE("times and repeats that cannot be are refused with the block's name") {
  const auto refused = [](auto change) {
    std::vector<Block> all{block("A", 0, {1.0}), block("B", 1, {1.0})};
    all[1].after.push_back({0, 0, 0.0});
    change(all[1]);
    const auto placed = place(all);
    REQUIRE_FALSE(placed);
    CHECK(placed.problem().where == "B");
    CHECK_FALSE(placed.problem().remedy.empty());
  };
  refused([](Block& b) { b.offset = -0.1; });
  refused([](Block& b) { b.offset = NAN; });
  refused([](Block& b) { b.offset = HUGE_VAL; });
  refused([](Block& b) { b.repeats = 0; });
  refused([](Block& b) { b.repeats = 100'001; });
  refused([](Block& b) { b.ends = {}; });
  refused([](Block& b) { b.ends = {0.0}; });
  refused([](Block& b) { b.ends = {NAN}; });
  refused([](Block& b) { b.after[0].delay = -1.0; });
  refused([](Block& b) { b.after[0].delay = NAN; });
}

TEST_CASE("a typed cycle is kept, refused where the blocks need longer, or overlapped") {
  std::vector<Block> all{block("A", 0, {1.0}), block("B", 1, {1.0})};
  all[1].after.push_back({0, 0, 0.0});
  Pace pace;
  pace.cycle = 3.0;
  CHECK(place(all, pace)->cycle == 3.0);
  CHECK(place(all, pace)->blocks[0].slack == Approx(1.0));
  pace.cycle = 1.5;
  const auto refused = place(all, pace);
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().what.find("2 s") != std::string::npos);
  pace.overlapping = true;
  const auto overlapped = place(all, pace);
  REQUIRE(overlapped);
  CHECK(overlapped->blocks[1].start == Approx(1.0));
  CHECK(overlapped->blocks[1].end == Approx(2.0)); // half a second of it in the next cycle
  pace.cycle = 0.9;
  CHECK_FALSE(place(all, pace));
  pace.cycle = NAN;
  CHECK(place(all, pace)->cycle == Approx(2.0));
  pace.cycle = -1.0;
  CHECK_FALSE(place(all, pace));
}

TEST_CASE("one axis does not run two cycles at once") {
  std::vector<Block> all{block("first", 0, {1.0}), block("second", 0, {0.5}, 0.8)};
  const auto placed = place(all);
  REQUIRE_FALSE(placed);
  CHECK(placed.problem().text().find("second") != std::string::npos);
  CHECK(placed.problem().text().find("first") != std::string::npos);
  all[1].offset = 1.0;
  REQUIRE(place(all));
  CHECK(place(all)->blocks[0].slack == Approx(0.0)); // it would run into the second
  Pace pace;
  pace.cycle = 1.4;
  pace.overlapping = true;
  CHECK_FALSE(place(all, pace)); // 1.5 s of one axis in 1.4 s
}

TEST_CASE("axes on their own meet again after the least common multiple of their periods as typed") {
  CHECK(hyperperiod(std::vector{1.2, 0.8, 1.5}) == Approx(12.0));
  CHECK(hyperperiod(std::vector{2.0, 3.0}) == Approx(6.0));
  CHECK(hyperperiod(std::vector{0.1, 0.3}) == Approx(0.3)); // not what floating point would say
  CHECK_FALSE(hyperperiod(std::vector{1.0, 1.000001}));
  CHECK_FALSE(hyperperiod(std::vector{1.0, std::sqrt(2.0)}));
  CHECK_FALSE(hyperperiod(std::vector<double>{}));
  CHECK_FALSE(hyperperiod(std::vector{1.0, 0.0}));
  CHECK_FALSE(hyperperiod(std::vector{97.0, 89.0}));
}
