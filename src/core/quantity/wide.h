// For inner loops that wider machine words make faster: the compiler writes the function twice, and the machine's own
// word width decides at start which one runs. The results are the same to the last digit of a double's sum.
#pragma once

#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__) &&               \
    !defined(__SANITIZE_THREAD__)
#define OTTERSTONE_WIDE __attribute__((target_clones("avx2", "default")))
// With the newer instructions for single bits, too. They come with ones that round a product and a sum only once, so
// such a folder is compiled with -ffp-contract=off.
#define OTTERSTONE_WIDE_BITS __attribute__((target_clones("arch=x86-64-v3", "default")))
#else
#define OTTERSTONE_WIDE
#define OTTERSTONE_WIDE_BITS
#endif
