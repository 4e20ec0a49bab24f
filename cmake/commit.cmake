# At each build: the commit that is built, into a file that changes only with it. Usage: cmake -DSOURCE=… -DOUT=… -DGIVEN=… -P commit.cmake
cmake_minimum_required(VERSION 3.25)
set(commit "${GIVEN}")
if(NOT commit)
  execute_process(COMMAND git -C "${SOURCE}" rev-parse --short HEAD OUTPUT_VARIABLE commit OUTPUT_STRIP_TRAILING_WHITESPACE ERROR_QUIET)
endif()
file(CONFIGURE OUTPUT "${OUT}" @ONLY CONTENT "#define OTTERSTONE_COMMIT \"@commit@\"\n")
