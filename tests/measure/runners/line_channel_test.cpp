#include "measure/runners/line_channel.h"

#include <sys/socket.h>
#include <unistd.h>

#include <string>

#include <gtest/gtest.h>

#include "system/descriptors.h"

namespace mileage {
namespace {

class ChannelEnds : public testing::Test {
 protected:
  ChannelEnds() {
    int ends[2];
    EXPECT_EQ(::socketpair(AF_UNIX, SOCK_STREAM, 0, ends), 0);
    theirs_ = ends[1];
    channel_ = std::make_unique<DescriptorChannel>(ends[0], ends[0], true);
  }
  ~ChannelEnds() override { hang_up(); }
  void say(const std::string& bytes) { EXPECT_TRUE(write_all(theirs_, bytes)); }
  void hang_up() {
    if (theirs_ >= 0) ::close(theirs_);
    theirs_ = -1;
  }

  BrokenPipeGuard guard_;
  int theirs_ = -1;
  std::unique_ptr<DescriptorChannel> channel_;
};

TEST_F(ChannelEnds, LinesComeOneByOneHoweverTheyWereSent) {
  say("one\ntwo\nthr");
  EXPECT_EQ(channel_->receive(1), "one");
  EXPECT_EQ(channel_->receive(1), "two");
  EXPECT_FALSE(channel_->receive(0.05)) << "no whole line yet";
  say("ee\n");
  EXPECT_EQ(channel_->receive(1), "three");
}

TEST_F(ChannelEnds, TheOtherEndMayGo) {
  say("last\n");
  hang_up();
  EXPECT_EQ(channel_->receive(1), "last");
  EXPECT_FALSE(channel_->receive(1));
  EXPECT_TRUE(channel_->is_closed());
}

TEST_F(ChannelEnds, SendsWholeLines) {
  EXPECT_TRUE(channel_->send("next"));
  char buffer[16] = {};
  ASSERT_EQ(::read(theirs_, buffer, sizeof buffer), 5);
  EXPECT_STREQ(buffer, "next\n");
}

TEST(Listening, RefusesAnAddressThatDoesNotRead) {
  EXPECT_ANY_THROW(Listening("nowhere"));
  const Listening listening("127.0.0.1:0");
  EXPECT_GT(listening.port(), 0);
  EXPECT_TRUE(listening.is_local());
}

}  // namespace
}  // namespace mileage
