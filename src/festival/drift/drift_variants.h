#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival {

/// Heap objects with one virtual call per frame, each looking up the wind. Knobs scatter, ballast.
std::unique_ptr<Variant> make_drift_objects(const SetUp& set_up);
/// The wind is looked up once per frame.
std::unique_ptr<Variant> make_drift_objects_hoisted(const SetUp& set_up);
/// Array of structures.
std::unique_ptr<Variant> make_drift_records(const SetUp& set_up);
/// Structure of arrays, vectorised by the compiler.
std::unique_ptr<Variant> make_drift_columns(const SetUp& set_up);
/// Partly columns, partly objects. Knobs scatter, ballast, converted.
std::unique_ptr<Variant> make_drift_in_part(const SetUp& set_up);
/// Columns without vectors.
std::unique_ptr<Variant> make_drift_columns_plain(const SetUp& set_up);
/// Columns with the widest vectors available.
std::unique_ptr<Variant> make_drift_columns_wide(const SetUp& set_up);
/// Touched fields only, in blocks of one stream, widest vectors.
std::unique_ptr<Variant> make_drift_lean(const SetUp& set_up);
/// Handles and grouped fields (festival/groups).
std::unique_ptr<Variant> make_drift_groups(const SetUp& set_up);
/// Columns in batches on a task scheduler. Knobs workers, batch.
std::unique_ptr<Variant> make_drift_jobs(const SetUp& set_up);
std::unique_ptr<Variant> make_drift_jobs_wide(const SetUp& set_up);
/// Started before the rest of the frame, joined after it.
std::unique_ptr<Variant> make_drift_jobs_late(const SetUp& set_up);
/// Objects copied to columns and back every frame.
std::unique_ptr<Variant> make_drift_mirrored(const SetUp& set_up);
/// Columns allocated every frame.
std::unique_ptr<Variant> make_drift_mirrored_fresh(const SetUp& set_up);
/// Only objects changed from outside are copied.
std::unique_ptr<Variant> make_drift_mirrored_changed(const SetUp& set_up);
/// Results find their objects through a hash table.
std::unique_ptr<Variant> make_drift_mirrored_by_id(const SetUp& set_up);
/// Copies in batches, too. Knobs workers, batch.
std::unique_ptr<Variant> make_drift_mirrored_jobs(const SetUp& set_up);

}  // namespace mileage::festival
