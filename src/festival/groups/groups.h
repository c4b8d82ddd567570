// Groups: entities without objects. An entity is a handle; what it has are fields. Entities that have the same set of
// fields lie together in a group, as columns in pages, so that a walk over some fields touches no others. Fields are
// added and taken away at run time, which moves the entity to another group.
//
// A field is a structure with one member `value` that may be copied byte by byte, or an empty one: a tag.
//     struct Height { float value; };
//     struct Lit {};
//     groups::World world;
//     const groups::Handle one = world.make(Height{0.3F});
//     world.give(one, Lit{});
//     world.walk<Height>([](std::int64_t count, float* height) { ... }, groups::FieldSet::of<Lit>());
//
// A world belongs to one thread. Different pages of one walk may be worked on by different threads during that time.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <new>
#include <type_traits>
#include <unordered_map>
#include <utility>
#include <vector>

namespace mileage::groups {

/// Names an entity. A handle outlives its entity harmlessly: its place may be used again, its generation is not.
struct Handle {
  std::uint32_t index = 0xffffffff;
  std::uint32_t generation = 0;

  bool operator==(const Handle& other) const { return index == other.index && generation == other.generation; }
};

/// Most kinds of fields in a program.
inline constexpr int max_fields = 64;
/// Rows of a page.
inline constexpr std::int64_t page_rows = 512;

namespace detail {

struct FieldFacts {
  std::size_t bytes = 0;  ///< Of a value; 0 for a tag.
};

/// Takes a number for a field, the same throughout the program. Throws std::length_error beyond max_fields.
int number_field(FieldFacts facts);
FieldFacts field_facts(int number);

/// Every entity has this one: its own handle. Field number 0.
inline constexpr int handle_field = 0;

template <class Field>
struct ValueOf {
  using Type = decltype(Field::value);
  static_assert(std::is_trivially_copyable_v<Type>, "fields are copied byte by byte");
};
template <>
struct ValueOf<Handle> {
  using Type = const Handle;
};

template <class Field>
int number_of() {
  if constexpr (std::is_same_v<Field, Handle>) {
    return handle_field;
  } else if constexpr (std::is_empty_v<Field>) {
    static const int number = number_field({0});
    return number;
  } else {
    static const int number = number_field({sizeof(typename ValueOf<Field>::Type)});
    return number;
  }
}

}  // namespace detail

template <class Field>
using Value = typename detail::ValueOf<Field>::Type;

/// A set of kinds of fields.
class FieldSet {
 public:
  template <class... Fields>
  static FieldSet of() {
    FieldSet set;
    ((set.bits_ |= std::uint64_t{1} << detail::number_of<Fields>()), ...);
    return set;
  }

  bool holds(FieldSet other) const { return (bits_ & other.bits_) == other.bits_; }
  FieldSet with(FieldSet other) const { return FieldSet(bits_ | other.bits_); }
  /// The handle stays.
  FieldSet without(FieldSet other) const { return FieldSet((bits_ & ~other.bits_) | FieldSet().bits_); }
  std::uint64_t bits() const { return bits_; }
  bool operator==(FieldSet other) const { return bits_ == other.bits_; }

 private:
  explicit FieldSet(std::uint64_t bits) : bits_(bits) {}
  FieldSet() = default;

  std::uint64_t bits_ = 1;  ///< The handle is always there.

  friend class World;
};

namespace detail {

/// The entities that have one set of fields. Rows are kept without gaps.
class Group {
 public:
  explicit Group(FieldSet fields);

  FieldSet fields() const { return fields_; }
  std::int64_t size() const { return size_; }

  /// Where a value lies, of `Type` for the field.
  template <class Type>
  Type* at(int field, std::int64_t row) const {
    std::byte* place = page_of(row) + offset_[static_cast<std::size_t>(field)];
    return std::launder(reinterpret_cast<Type*>(place)) + static_cast<std::size_t>(row) % page_rows;
  }
  Handle& handle(std::int64_t row) const { return *at<Handle>(handle_field, row); }

  /// A row more at the end, of which nothing is set.
  std::int64_t add_row() {
    if (size_ == static_cast<std::int64_t>(pages_.size()) * page_rows) add_page();
    return size_++;
  }
  /// Moves the last row to this one. Returns whether there was another to move.
  bool remove_row(std::int64_t row);
  /// Copies what both groups have.
  void copy_row(std::int64_t from, Group& other, std::int64_t to) const;

 private:
  struct FreePage {
    void operator()(std::byte* page) const { ::operator delete (page, std::align_val_t{64}); }
  };
  using Page = std::unique_ptr<std::byte, FreePage>;
  struct Column {
    int field;
    std::size_t offset;  ///< In a page.
    std::size_t bytes;   ///< Of a value.
  };

  void add_page();
  std::byte* page_of(std::int64_t row) const { return pages_[static_cast<std::size_t>(row) / page_rows].get(); }

  FieldSet fields_;
  std::vector<Column> columns_;  ///< Of the fields that have values.
  std::array<std::size_t, max_fields> offset_{};
  std::size_t page_bytes_ = 0;
  std::vector<Page> pages_;
  std::int64_t size_ = 0;
};

}  // namespace detail

class World {
 public:
  /// Makes an entity that has these fields. During a walk it is named at once, and has its fields afterwards.
  template <class... Fields>
  Handle make(const Fields&... fields) {
    const Handle handle = name_one();
    change([this, handle, fields...] { place(handle, fields...); });
    return handle;
  }

  /// Ends an entity; during a walk, afterwards. Does nothing for a handle whose entity is gone.
  void destroy(Handle handle) {
    if (walks_ == 0)
      end(handle);
    else
      later_.emplace_back([this, handle] { end(handle); });
  }

  bool alive(Handle handle) const {
    return handle.index < slots_.size() && slots_[handle.index].generation == handle.generation;
  }
  std::int64_t size() const { return size_; }

  /// Adds a field to an entity, or sets it where the entity has it; during a walk, afterwards. Does nothing for a
  /// handle whose entity is gone.
  template <class Field>
  void give(Handle handle, const Field& field) {
    change([this, handle, field] {
      if (!is_placed(handle)) return;
      move(handle, group_of(handle).fields().with(FieldSet::of<Field>()));
      set_at(group_of(handle), detail::number_of<Field>(), slots_[handle.index].row, field);
    });
  }
  /// Takes a field away, as far as the entity has it.
  template <class Field>
  void take(Handle handle) {
    change([this, handle] {
      if (is_placed(handle)) move(handle, group_of(handle).fields().without(FieldSet::of<Field>()));
    });
  }

  /// The value of a field; nullptr where the entity is gone or has no such field. Valid until an entity is made,
  /// destroyed or moved.
  template <class Field>
  Value<Field>* find(Handle handle) {
    return const_cast<Value<Field>*>(std::as_const(*this).find<Field>(handle));
  }
  template <class Field>
  const Value<Field>* find(Handle handle) const {
    if (!is_placed(handle) || !group_of(handle).fields().holds(FieldSet::of<Field>())) return nullptr;
    return value<Field>(group_of(handle), slots_[handle.index].row);
  }
  template <class Field>
  bool has(Handle handle) const {
    return is_placed(handle) && group_of(handle).fields().holds(FieldSet::of<Field>());
  }

  /// Calls `work(count, columns...)` for each page of each group that has these fields, and those of `also`. `Handle`
  /// is a field like others. Entities and fields may be made, taken and ended during that time: that happens after the
  /// walk.
  template <class... Fields, class Work>
  void walk(const Work& work, FieldSet also = FieldSet::of<>()) {
    const Walk under_way(*this);
    const FieldSet wanted = FieldSet::of<Fields...>().with(also);
    for (const auto& group : groups_) {
      if (!group->fields().holds(wanted)) continue;
      for (std::int64_t row = 0; row < group->size(); row += page_rows)
        work(std::min(page_rows, group->size() - row), value<Fields>(*group, row)...);
    }
  }

 private:
  struct Slot {
    std::uint32_t generation = 0;
    std::int32_t group = -1;  ///< -1: not placed.
    std::int64_t row = 0;
  };

  /// Counts the walks under way; what was put off happens after the last one.
  class Walk {
   public:
    explicit Walk(World& world) : world_(world) { ++world_.walks_; }
    ~Walk() {
      if (--world_.walks_ == 0) world_.catch_up();
    }
    Walk(const Walk&) = delete;
    Walk& operator=(const Walk&) = delete;

   private:
    World& world_;
  };

  template <class Change>
  void change(Change change) {
    if (walks_ == 0)
      change();
    else
      later_.emplace_back(std::move(change));
  }
  void catch_up();

  Handle name_one() {
    ++size_;
    if (free_.empty()) {
      slots_.emplace_back();
      return {static_cast<std::uint32_t>(slots_.size() - 1), 0};
    }
    const std::uint32_t index = free_.back();
    free_.pop_back();
    return {index, slots_[index].generation};
  }
  void end(Handle handle);
  bool is_placed(Handle handle) const { return alive(handle) && slots_[handle.index].group >= 0; }
  detail::Group& group_of(Handle handle) const {
    return *groups_[static_cast<std::size_t>(slots_[handle.index].group)];
  }
  /// The group of a set of fields, made where there is none.
  std::int32_t group_with(FieldSet fields) {
    return fields.bits() == last_fields_ ? last_group_ : look_up_group(fields);
  }
  std::int32_t look_up_group(FieldSet fields);
  /// To the group of other fields.
  void move(Handle handle, FieldSet fields);
  void leave_row(detail::Group& group, std::int64_t row);

  template <class... Fields>
  void place(Handle handle, const Fields&... fields) {
    if (!alive(handle)) return;
    // Asked for once: numbers are the same throughout the program.
    static const FieldSet set = FieldSet::of<Fields...>();
    static const std::array<int, sizeof...(Fields)> numbers{detail::number_of<Fields>()...};
    Slot& slot = slots_[handle.index];
    slot.group = group_with(set);
    detail::Group& group = *groups_[static_cast<std::size_t>(slot.group)];
    slot.row = group.add_row();
    group.handle(slot.row) = handle;
    std::size_t i = 0;
    (set_at(group, numbers[i++], slot.row, fields), ...);
  }
  template <class Field>
  static void set_at(detail::Group& group, int number, std::int64_t row, const Field& field) {
    if constexpr (!std::is_empty_v<Field>) *group.at<Value<Field>>(number, row) = field.value;
  }
  template <class Field>
  static Value<Field>* value(const detail::Group& group, std::int64_t row) {
    return group.at<Value<Field>>(detail::number_of<Field>(), row);
  }

  std::vector<Slot> slots_;
  std::vector<std::uint32_t> free_;
  std::vector<std::unique_ptr<detail::Group>> groups_;
  std::unordered_map<std::uint64_t, std::int32_t> by_fields_;
  std::uint64_t last_fields_ = 0;  ///< Of the group that was asked for last.
  std::int32_t last_group_ = -1;
  std::int64_t size_ = 0;
  int walks_ = 0;
  std::vector<std::function<void()>> later_;
};

}  // namespace mileage::groups
