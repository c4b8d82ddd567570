# What each variant of jostle is written in, besides what all of them share: counted by the build.
mileage_count_lines(festival generated/festival/jostle/sizes.h mileage::festival::jostle::sizes src/festival/jostle
  pairs jostle_pairs.cpp
  sweep jostle_sweep.cpp
  grid jostle_grid.cpp grid.h cells.h
  grid_capped jostle_grid.cpp grid.h cells.h
  hashed jostle_hashed.cpp cell_table.h cells.h
  grid_jobs jostle_jobs.cpp ../jobs.h grid.h cells.h
  hashed_jobs jostle_jobs.cpp ../jobs.h cell_table.h cells.h)
