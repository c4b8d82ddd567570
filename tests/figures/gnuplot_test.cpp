#include "figures/gnuplot.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Gnuplot, TextsCannotBreakOut) { EXPECT_EQ(gnuplot_text("say \"hi\" `ls` \\"), R"("say \"hi\" \`ls\` \\")"); }

}  // namespace
}  // namespace mileage
