# What each variant of jetty is written in, besides what all of them share: counted by the build.
mileage_count_lines(festival generated/festival/jetty/sizes.h mileage::festival::jetty::sizes src/festival/jetty
  planks jetty_planks.cpp
  decks jetty_decks.cpp
  decks_live jetty_decks.cpp)
