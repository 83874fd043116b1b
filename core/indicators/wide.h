#pragma once

/// Compiles a loop over columns twice, with 128-bit and with 256-bit vector instructions, and takes
/// what the machine has. Both do the same operations in the same order, each rounded by itself
/// (no fused ones), so their bits are the same; a test holds them to it.
#if defined(__GNUC__) && !defined(__clang__) && defined(__x86_64__) &&                             \
    !defined(__SANITIZE_ADDRESS__)
#define SIEVE_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define SIEVE_WIDE
#endif

/// For what such a loop calls: it becomes part of the loop, with the loop's instructions.
#if defined(__GNUC__)
#define SIEVE_INLINE __attribute__((always_inline)) inline
#else
#define SIEVE_INLINE inline
#endif
