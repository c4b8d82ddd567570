# What each variant of moths is written in, besides what all of them share: counted by the build.
mileage_count_lines(festival generated/festival/moths/sizes.h mileage::festival::moths::sizes src/festival/moths
  scan moths_scan.cpp
  index moths_scan.cpp
  kept moths_scan.cpp
  grid moths_grid.cpp lantern_cells.h
  tree moths_tree.cpp
  jobs moths_grid.cpp lantern_cells.h ../jobs.h)
