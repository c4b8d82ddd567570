// The processor variants of drift.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival {

/// One heap object per lantern, one virtual call per lantern and frame, in which each looks up the wind. Knobs scatter
/// and ballast.
std::unique_ptr<Variant> make_drift_objects(const SetUp& set_up);
/// The same, with the wind looked up once a frame.
std::unique_ptr<Variant> make_drift_objects_hoisted(const SetUp& set_up);
/// One contiguous array of structures, one loop.
std::unique_ptr<Variant> make_drift_records(const SetUp& set_up);
/// One array per field, one loop that the compiler vectorises.
std::unique_ptr<Variant> make_drift_columns(const SetUp& set_up);
/// Adopted in part: some lanterns are columns, the others objects still. Knobs scatter, ballast and converted.
std::unique_ptr<Variant> make_drift_in_part(const SetUp& set_up);
/// The loop over columns without vectors.
std::unique_ptr<Variant> make_drift_columns_plain(const SetUp& set_up);
/// The same loop with the widest vectors of the processor at hand.
std::unique_ptr<Variant> make_drift_columns_wide(const SetUp& set_up);
/// What a frame touches and no more, in blocks of one stream, with the widest vectors.
std::unique_ptr<Variant> make_drift_lean(const SetUp& set_up);
/// Handles, and fields in groups (festival/groups).
std::unique_ptr<Variant> make_drift_groups(const SetUp& set_up);
/// The columns in batches over a task scheduler. Knobs workers and batch.
std::unique_ptr<Variant> make_drift_jobs(const SetUp& set_up);
std::unique_ptr<Variant> make_drift_jobs_wide(const SetUp& set_up);
/// Started before the rest of the frame and joined after it.
std::unique_ptr<Variant> make_drift_jobs_late(const SetUp& set_up);
/// Objects, copied to columns and back in every frame.
std::unique_ptr<Variant> make_drift_mirrored(const SetUp& set_up);
/// With columns made and freed in every frame.
std::unique_ptr<Variant> make_drift_mirrored_fresh(const SetUp& set_up);
/// Of the objects, only those are copied that were changed from outside since.
std::unique_ptr<Variant> make_drift_mirrored_changed(const SetUp& set_up);
/// Results find back to their objects through a hash table.
std::unique_ptr<Variant> make_drift_mirrored_by_id(const SetUp& set_up);
/// Copying to and fro in batches too. Knobs workers and batch.
std::unique_ptr<Variant> make_drift_mirrored_jobs(const SetUp& set_up);

}  // namespace mileage::festival
