#include "festival/groups/groups.h"

#include <numeric>
#include <random>
#include <set>
#include <string>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage::groups {
namespace {

struct Height {
  float value;
};
struct Wax {
  double value;
};
struct Owner {
  Handle value;
};
struct Colour {
  std::array<std::uint8_t, 3> value;
};
struct Lit {};
struct Sunk {};

bool operator==(const Colour& one, const Colour& other) { return one.value == other.value; }

TEST(Groups, AnEntityHasTheFieldsItWasMadeWith) {
  World world;
  const Handle one = world.make(Height{0.5F}, Colour{{1, 2, 3}}, Lit{});
  EXPECT_EQ(world.size(), 1);
  EXPECT_TRUE(world.alive(one));
  EXPECT_EQ(*world.find<Height>(one), 0.5F);
  EXPECT_EQ((*world.find<Colour>(one)), (std::array<std::uint8_t, 3>{1, 2, 3}));
  EXPECT_EQ(world.find<Wax>(one), nullptr);
  EXPECT_TRUE(world.has<Lit>(one));
  EXPECT_FALSE(world.has<Sunk>(one));
}

TEST(Groups, AHandleOutlivesItsEntity) {
  World world;
  const Handle first = world.make(Height{1});
  world.destroy(first);
  EXPECT_FALSE(world.alive(first));
  EXPECT_EQ(world.find<Height>(first), nullptr);
  const Handle second = world.make(Height{2});
  EXPECT_EQ(second.index, first.index) << "its place is used again";
  EXPECT_FALSE(world.alive(first));
  world.destroy(first);
  world.give(first, Wax{3});
  world.take<Height>(first);
  EXPECT_TRUE(world.alive(second)) << "nothing that is done to the old one touches the new one";
  EXPECT_EQ(*world.find<Height>(second), 2);
  EXPECT_FALSE(world.has<Wax>(second));
  EXPECT_FALSE(world.alive(Handle{}));
}

TEST(Groups, FieldsComeAndGoAndTheOthersStay) {
  World world;
  const Handle one = world.make(Height{1}, Wax{10});
  const Handle other = world.make(Height{2}, Wax{20});
  world.give(one, Owner{other});
  EXPECT_EQ(*world.find<Height>(one), 1);
  EXPECT_EQ(*world.find<Wax>(one), 10);
  EXPECT_EQ(*world.find<Owner>(one), other);
  EXPECT_EQ(*world.find<Height>(other), 2) << "the last one moved into its row";
  world.give(one, Wax{11});
  EXPECT_EQ(*world.find<Wax>(one), 11) << "a field that is there is set";
  world.take<Wax>(one);
  EXPECT_FALSE(world.has<Wax>(one));
  EXPECT_EQ(*world.find<Owner>(one), other);
  world.take<Wax>(one);
  EXPECT_EQ(*world.find<Height>(one), 1);
}

std::set<float> heights(World& world, FieldSet also = FieldSet::of<>()) {
  std::set<float> seen;
  world.walk<Height>([&](std::int64_t count, const float* height) { seen.insert(height, height + count); }, also);
  return seen;
}

TEST(Groups, AWalkMeetsAllThatHaveTheFieldsAskedFor) {
  World world;
  world.make(Height{1});
  world.make(Height{2}, Wax{1});
  world.make(Height{3}, Wax{1}, Lit{});
  world.make(Wax{4});
  EXPECT_THAT(heights(world), testing::ElementsAre(1, 2, 3));
  EXPECT_THAT(heights(world, FieldSet::of<Wax>()), testing::ElementsAre(2, 3));
  EXPECT_THAT(heights(world, FieldSet::of<Lit>()), testing::ElementsAre(3));
  EXPECT_THAT(heights(world, FieldSet::of<Sunk>()), testing::IsEmpty());
}

TEST(Groups, AWalkGoesOverEveryPageOnce) {
  World world;
  const std::int64_t count = 3 * page_rows + 1;
  for (std::int64_t i = 0; i < count; ++i) world.make(Height{static_cast<float>(i)}, Wax{0});
  std::vector<std::int64_t> pages;
  world.walk<Height, Wax>([&](std::int64_t rows, const float* height, double* wax) {
    pages.push_back(rows);
    for (std::int64_t i = 0; i < rows; ++i) wax[i] += height[i];
  });
  EXPECT_THAT(pages, testing::ElementsAre(page_rows, page_rows, page_rows, 1));
  double sum = 0;
  world.walk<Wax>([&](std::int64_t rows, const double* wax) { sum = std::accumulate(wax, wax + rows, sum); });
  EXPECT_EQ(sum, static_cast<double>(count * (count - 1) / 2));
}

TEST(Groups, AWalkTellsHandles) {
  World world;
  const Handle one = world.make(Height{1});
  world.walk<Handle, Height>([&](std::int64_t rows, const Handle* handle, const float*) {
    ASSERT_EQ(rows, 1);
    EXPECT_EQ(*handle, one);
  });
}

TEST(Groups, WhatChangesDuringAWalkHappensAfterIt) {
  World world;
  for (int i = 0; i < 10; ++i) world.make(Height{static_cast<float>(i)});
  int met = 0;
  std::vector<Handle> made;
  world.walk<Handle, Height>([&](std::int64_t rows, const Handle* handle, const float* height) {
    for (std::int64_t i = 0; i < rows; ++i) {
      ++met;
      if (height[i] < 3) world.destroy(handle[i]);
      if (height[i] >= 3 && height[i] < 5) world.give(handle[i], Lit{});
      if (height[i] == 9) world.take<Height>(handle[i]);
      made.push_back(world.make(Height{100 + height[i]}));
      EXPECT_TRUE(world.alive(made.back()));
      EXPECT_EQ(world.find<Height>(made.back()), nullptr) << "not placed yet";
      EXPECT_TRUE(world.alive(handle[i]));
    }
  });
  EXPECT_EQ(met, 10) << "those made during it are not met";
  EXPECT_EQ(world.size(), 10 - 3 + 10);
  EXPECT_THAT(heights(world), testing::ElementsAre(3, 4, 5, 6, 7, 8, 100, 101, 102, 103, 104, 105, 106, 107, 108, 109));
  EXPECT_THAT(heights(world, FieldSet::of<Lit>()), testing::ElementsAre(3, 4));
  EXPECT_EQ(*world.find<Height>(made.front()), 100);
}

TEST(Groups, AWalkWithinAWalkPutsChangesOffUntilTheOuterOneEnds) {
  World world;
  world.make(Height{1});
  world.walk<Height>([&](std::int64_t, const float*) {
    world.walk<Handle>([&](std::int64_t, const Handle* handle) { world.destroy(*handle); });
    EXPECT_EQ(world.size(), 1);
  });
  EXPECT_EQ(world.size(), 0);
}

TEST(Groups, OneThatIsMadeAndEndedInOneWalkIsGone) {
  World world;
  world.make(Height{1});
  Handle made;
  world.walk<Height>([&](std::int64_t, const float*) {
    made = world.make(Height{2});
    world.destroy(made);
  });
  EXPECT_FALSE(world.alive(made));
  EXPECT_THAT(heights(world), testing::ElementsAre(1));
}

TEST(Groups, AMillionAreMadeAndEnded) {
  World world;
  constexpr int count = 1'000'000;
  std::vector<Handle> handles;
  for (int i = 0; i < count; ++i) handles.push_back(world.make(Height{static_cast<float>(i % 1000)}, Wax{1.0 * i}));
  for (int i = 0; i < count; i += 2) world.destroy(handles[static_cast<std::size_t>(i)]);
  EXPECT_EQ(world.size(), count / 2);
  for (int i = 1; i < count; i += 50'002)
    EXPECT_EQ(i % 2 == 1 ? *world.find<Wax>(handles[static_cast<std::size_t>(i)]) : -1, i % 2 == 1 ? i : -1);
  double sum = 0;
  world.walk<Wax>([&](std::int64_t rows, const double* wax) { sum = std::accumulate(wax, wax + rows, sum); });
  EXPECT_EQ(sum, 1.0 * count / 2 * count / 2);
  for (const Handle handle : handles) world.destroy(handle);
  EXPECT_EQ(world.size(), 0);
  EXPECT_THAT(heights(world), testing::IsEmpty());
}

TEST(Groups, AnyOrderOfChangesComesToWhatWasAskedFor) {
  struct Expected {
    Handle handle;
    float height;
    std::optional<double> wax;
    bool is_lit;
  };
  World world;
  std::vector<Expected> all;
  std::mt19937 random(5);
  for (int step = 0; step < 20'000; ++step) {
    const unsigned what = random() % 6;
    if (what < 2 || all.empty()) {
      const auto height = static_cast<float>(step);
      all.push_back({world.make(Height{height}), height, std::nullopt, false});
      continue;
    }
    const std::size_t at = random() % all.size();
    Expected& one = all[at];
    if (what == 2) {
      world.destroy(one.handle);
      all.erase(all.begin() + static_cast<std::ptrdiff_t>(at));
    } else if (what == 3) {
      one.wax = step;
      world.give(one.handle, Wax{1.0 * step});
    } else if (what == 4) {
      one.wax.reset();
      world.take<Wax>(one.handle);
    } else {
      one.is_lit = !one.is_lit;
      if (one.is_lit)
        world.give(one.handle, Lit{});
      else
        world.take<Lit>(one.handle);
    }
  }
  ASSERT_GT(all.size(), 100U);
  EXPECT_EQ(world.size(), static_cast<std::int64_t>(all.size()));
  for (const Expected& one : all) {
    ASSERT_TRUE(world.alive(one.handle));
    EXPECT_EQ(*world.find<Height>(one.handle), one.height);
    EXPECT_EQ(world.has<Wax>(one.handle), one.wax.has_value());
    if (one.wax) EXPECT_EQ(*world.find<Wax>(one.handle), *one.wax);
    EXPECT_EQ(world.has<Lit>(one.handle), one.is_lit);
  }
}

}  // namespace
}  // namespace mileage::groups
