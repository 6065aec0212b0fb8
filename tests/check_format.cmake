# Fails when a source file is not formatted as .clang-format says:  cmake -DSOURCE_DIR=… -P check_format.cmake
find_program(CLANG_FORMAT NAMES clang-format-14 clang-format REQUIRED)
file(GLOB_RECURSE files ${SOURCE_DIR}/src/*.cpp ${SOURCE_DIR}/src/*.h ${SOURCE_DIR}/tests/*.cpp ${SOURCE_DIR}/tests/*.h
  ${SOURCE_DIR}/bench/*.cpp ${SOURCE_DIR}/bench/*.h)
execute_process(COMMAND ${CLANG_FORMAT} --dry-run --Werror ${files} RESULT_VARIABLE result ERROR_VARIABLE said)
if(NOT result EQUAL 0)
  string(SUBSTRING "${said}" 0 3000 said)
  message(FATAL_ERROR "clang-format -i these files:\n${said}")
endif()
