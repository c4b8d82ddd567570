// Compiles a function for wider vectors than its source, where the target has any.
#pragma once

#if defined(__x86_64__) && defined(__GNUC__)
#define MILEAGE_HAS_WIDER
#if defined(__clang__)
#define MILEAGE_512_BITS [[gnu::target("avx2,avx512f,avx512dq,avx512vl")]]
#else
#define MILEAGE_512_BITS [[gnu::target("avx2,avx512f,avx512dq,avx512vl,prefer-vector-width=512")]]
#endif
#define MILEAGE_256_BITS [[gnu::target("avx2")]]
#endif
