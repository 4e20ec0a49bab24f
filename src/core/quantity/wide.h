// For inner loops that wider machine words make faster: the compiler writes the function twice, and the machine's own
// word width decides at start which one runs. The results are the same to the last digit of a double's sum.
#pragma once

#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__) &&               \
    !defined(__SANITIZE_THREAD__)
#define OTTERSTONE_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define OTTERSTONE_WIDE
#endif
