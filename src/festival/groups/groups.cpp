#include "festival/groups/groups.h"

#include <algorithm>
#include <cstring>
#include <mutex>
#include <stdexcept>

namespace mileage::groups {
namespace {

constexpr std::size_t cache_line = 64;
constexpr std::uint32_t last_generation = 0xffffffff;

/// By number.
struct Numbered {
  std::mutex guard;
  std::vector<detail::FieldFacts> fields{{sizeof(Handle)}};
};

Numbered& numbered() {
  static Numbered all;
  return all;
}

void copy_value(std::byte* to_column, std::int64_t to, const std::byte* from_column, std::int64_t from,
                std::size_t bytes) {
  std::byte* const to_place = to_column + static_cast<std::size_t>(to) % page_rows * bytes;
  const std::byte* const from_place = from_column + static_cast<std::size_t>(from) % page_rows * bytes;
  // Known sizes need no call.
  if (bytes == 4)
    std::memcpy(to_place, from_place, 4);
  else if (bytes == 8)
    std::memcpy(to_place, from_place, 8);
  else
    std::memcpy(to_place, from_place, bytes);
}

std::size_t up_to_line(std::size_t bytes) { return (bytes + cache_line - 1) / cache_line * cache_line; }

}  // namespace

namespace detail {

int number_field(FieldFacts facts) {
  Numbered& all = numbered();
  const std::lock_guard hold(all.guard);
  if (all.fields.size() == max_fields) throw std::length_error("more kinds of fields than a world can tell apart");
  all.fields.push_back(facts);
  return static_cast<int>(all.fields.size()) - 1;
}

FieldFacts field_facts(int number) {
  Numbered& all = numbered();
  const std::lock_guard hold(all.guard);
  return all.fields[static_cast<std::size_t>(number)];
}

Group::Group(FieldSet fields) : fields_(fields) {
  for (int field = 0; field < max_fields; ++field) {
    if ((fields.bits() >> field & 1) == 0) continue;
    const std::size_t bytes = field_facts(field).bytes;
    if (bytes == 0) continue;
    offset_[static_cast<std::size_t>(field)] = page_bytes_;
    columns_.push_back({field, page_bytes_, bytes});
    // Staggered by a line, so that columns do not share cache sets.
    page_bytes_ += up_to_line(bytes * static_cast<std::size_t>(page_rows)) + cache_line;
  }
}

void Group::add_page() {
  pages_.emplace_back(static_cast<std::byte*>(::operator new (page_bytes_, std::align_val_t{cache_line})));
}

bool Group::remove_row(std::int64_t row) {
  const std::int64_t last = --size_;
  if (row != last) {
    std::byte* const to = page_of(row);
    const std::byte* const from = page_of(last);
    for (const Column& column : columns_) copy_value(to + column.offset, row, from + column.offset, last, column.bytes);
  }
  // One page is kept in reserve.
  if ((static_cast<std::int64_t>(pages_.size()) - 2) * page_rows >= size_) pages_.pop_back();
  return row != last;
}

void Group::copy_row(std::int64_t from, Group& other, std::int64_t to) const {
  for (const Column& column : columns_)
    if ((other.fields_.bits() >> column.field & 1) != 0)
      copy_value(other.page_of(to) + other.offset_[static_cast<std::size_t>(column.field)], to,
                 page_of(from) + column.offset, from, column.bytes);
}

}  // namespace detail

void World::end(Handle handle) {
  if (!alive(handle)) return;
  Slot& slot = slots_[handle.index];
  if (slot.group >= 0) leave_row(group_of(handle), slot.row);
  slot.group = -1;
  // A slot out of generations is retired.
  if (++slot.generation != last_generation) free_.push_back(handle.index);
  --size_;
}

std::int32_t World::look_up_group(FieldSet fields) {
  const auto [found, is_new] = by_fields_.try_emplace(fields.bits(), static_cast<std::int32_t>(groups_.size()));
  if (is_new) groups_.push_back(std::make_unique<detail::Group>(fields));
  last_fields_ = fields.bits();
  return last_group_ = found->second;
}

void World::move(Handle handle, FieldSet fields) {
  detail::Group& from = group_of(handle);
  if (from.fields() == fields) return;
  Slot& slot = slots_[handle.index];
  const std::int32_t group = group_with(fields);
  detail::Group& to = *groups_[static_cast<std::size_t>(group)];
  const std::int64_t row = to.add_row();
  from.copy_row(slot.row, to, row);
  leave_row(from, slot.row);
  slot.group = group;
  slot.row = row;
}

void World::leave_row(detail::Group& group, std::int64_t row) {
  if (group.remove_row(row)) slots_[group.handle(row).index].row = row;
}

void World::catch_up() {
  // Deferred changes run once, in order; only walks may defer more.
  const std::vector<std::function<void()>> changes = std::exchange(later_, {});
  for (const auto& change : changes) change();
}

}  // namespace mileage::groups
