# What each variant of wicks is written in, besides what all of them share: counted by the build.
mileage_count_lines(festival generated/festival/wicks/sizes.h mileage::festival::wicks::sizes src/festival/wicks
  objects_erase wicks_objects.cpp
  swap_remove wicks_arrays.cpp leaving.h
  dead_stay wicks_arrays.cpp leaving.h
  free_list wicks_free_list.cpp
  groups wicks_groups.cpp ../groups/groups.h ../groups/groups.cpp
  jobs wicks_jobs.cpp ../jobs.h leaving.h)
