# What each variant of drift is written in, besides what all of them share: counted by the build.
set(objects lantern_object.h lantern_object.cpp lantern_objects.h lantern_objects.cpp)
set(columns line_aligned.h lantern_columns.h lantern_columns.cpp sorted_lanterns.h strips.h strip_loop.h)
set(wide strips_widest.cpp widest.h)
set(mirrored ${objects} ${columns} strips_usual.cpp mirrored_lanterns.h)
mileage_count_lines(festival generated/festival/drift/sizes.h mileage::festival::sizes src/festival/drift
  objects drift_objects.cpp ${objects} directory.h directory.cpp
  objects_hoisted drift_objects.cpp ${objects}
  records drift_records.cpp
  in_part drift_in_part.cpp ${objects} directory.h directory.cpp ${columns} strips_usual.cpp
  columns drift_columns.cpp ${columns} strips_usual.cpp
  columns_plain drift_columns.cpp ${columns} strips_plain.cpp
  columns_wide drift_columns.cpp ${columns} ${wide}
  lean drift_lean.cpp lean_lanterns.h lean_lanterns.cpp sorted_lanterns.h widest.h
  groups drift_groups.cpp ../groups/groups.h ../groups/groups.cpp strips.h strip_loop.h strips_usual.cpp
  jobs drift_jobs.cpp ../jobs.h carry_in_batches.h ${columns} strips_usual.cpp
  jobs_wide drift_jobs.cpp ../jobs.h carry_in_batches.h ${columns} ${wide}
  jobs_late drift_jobs.cpp ../jobs.h carry_in_batches.h ${columns} strips_usual.cpp
  mirrored drift_mirrored.cpp ${mirrored}
  mirrored_fresh drift_mirrored_fresh.cpp ${mirrored}
  mirrored_changed drift_mirrored_changed.cpp ${mirrored}
  mirrored_by_id drift_mirrored_by_id.cpp ${mirrored}
  mirrored_jobs drift_mirrored_jobs.cpp ../jobs.h carry_in_batches.h ${mirrored})
