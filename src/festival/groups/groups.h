// Groups: entities as handles with fields. Entities with the same set of fields are stored together as columns in
// pages, so that a walk touches only its fields. Adding or removing a field moves the entity to another group.
//
// A field is a trivially copyable structure with one member `value`, or an empty one (a tag).
//     struct Height { float value; };
//     struct Lit {};
//     groups::World world;
//     const groups::Handle one = world.make(Height{0.3F});
//     world.give(one, Lit{});
//     world.walk<Height>([](std::int64_t count, float* height) { ... }, groups::FieldSet::of<Lit>());
//
// A world belongs to one thread; pages of one walk may be processed on several.
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

/// Slots are reused, generations are not, so a stale handle is harmless.
struct Handle {
  std::uint32_t index = 0xffffffff;
  std::uint32_t generation = 0;

  bool operator==(const Handle& other) const { return index == other.index && generation == other.generation; }
};

inline constexpr int max_fields = 64;
inline constexpr std::int64_t page_rows = 512;

namespace detail {

struct FieldFacts {
  std::size_t bytes = 0;  ///< 0 for a tag.
};

/// Program-wide. Throws std::length_error beyond max_fields.
int number_field(FieldFacts facts);
FieldFacts field_facts(int number);

/// Every entity has its own handle as field 0.
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
  /// Keeps the handle.
  FieldSet without(FieldSet other) const { return FieldSet((bits_ & ~other.bits_) | FieldSet().bits_); }
  std::uint64_t bits() const { return bits_; }
  bool operator==(FieldSet other) const { return bits_ == other.bits_; }

 private:
  explicit FieldSet(std::uint64_t bits) : bits_(bits) {}
  FieldSet() = default;

  std::uint64_t bits_ = 1;  ///< The handle.

  friend class World;
};

namespace detail {

/// Entities with one set of fields, in rows without gaps.
class Group {
 public:
  explicit Group(FieldSet fields);

  FieldSet fields() const { return fields_; }
  std::int64_t size() const { return size_; }

  /// `Type`: of the field.
  template <class Type>
  Type* at(int field, std::int64_t row) const {
    std::byte* place = page_of(row) + offset_[static_cast<std::size_t>(field)];
    return std::launder(reinterpret_cast<Type*>(place)) + static_cast<std::size_t>(row) % page_rows;
  }
  Handle& handle(std::int64_t row) const { return *at<Handle>(handle_field, row); }

  /// Uninitialised.
  std::int64_t add_row() {
    if (size_ == static_cast<std::int64_t>(pages_.size()) * page_rows) add_page();
    return size_++;
  }
  /// Fills the gap with the last row; returns whether there was one.
  bool remove_row(std::int64_t row);
  /// Fields that both have.
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
  std::vector<Column> columns_;  ///< Of fields with values.
  std::array<std::size_t, max_fields> offset_{};
  std::size_t page_bytes_ = 0;
  std::vector<Page> pages_;
  std::int64_t size_ = 0;
};

}  // namespace detail

class World {
 public:
  /// Named at once; during a walk its fields follow afterwards.
  template <class... Fields>
  Handle make(const Fields&... fields) {
    const Handle handle = name_one();
    change([this, handle, fields...] { place(handle, fields...); });
    return handle;
  }

  /// During a walk: afterwards. No-op for a stale handle.
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

  /// Adds or sets a field; during a walk: afterwards. No-op for a stale handle.
  template <class Field>
  void give(Handle handle, const Field& field) {
    change([this, handle, field] {
      if (!is_placed(handle)) return;
      move(handle, group_of(handle).fields().with(FieldSet::of<Field>()));
      set_at(group_of(handle), detail::number_of<Field>(), slots_[handle.index].row, field);
    });
  }
  template <class Field>
  void take(Handle handle) {
    change([this, handle] {
      if (is_placed(handle)) move(handle, group_of(handle).fields().without(FieldSet::of<Field>()));
    });
  }

  /// nullptr for a stale handle or missing field. Valid until an entity is made, destroyed or moved.
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

  /// Calls `work(count, columns...)` per page of groups with these fields and those of `also`. `Handle` is a field.
  /// Changes during the walk take effect after it.
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
    std::int32_t group = -1;  ///< -1: none.
    std::int64_t row = 0;
  };

  /// Counts nested walks; deferred changes run after the outermost.
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
  /// Creates the group if needed.
  std::int32_t group_with(FieldSet fields) {
    return fields.bits() == last_fields_ ? last_group_ : look_up_group(fields);
  }
  std::int32_t look_up_group(FieldSet fields);
  void move(Handle handle, FieldSet fields);
  void leave_row(detail::Group& group, std::int64_t row);

  template <class... Fields>
  void place(Handle handle, const Fields&... fields) {
    if (!alive(handle)) return;
    // Cached, since numbers are program-wide.
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
  std::uint64_t last_fields_ = 0;  ///< Cache of the last group used.
  std::int32_t last_group_ = -1;
  std::int64_t size_ = 0;
  int walks_ = 0;
  std::vector<std::function<void()>> later_;
};

}  // namespace mileage::groups
