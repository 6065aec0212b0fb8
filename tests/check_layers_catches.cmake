# The check of the layers must see a stray include: run it on a made-up tree that has one in each room.
file(REMOVE_RECURSE ${WORK_DIR})
set(strays "core|QString" "core|fstream" "pose|media/clip_reader.h" "media|QImage" "sim|QPainter" "store|QWidget" "pipeline|QObject" "app|libavcodec/avcodec.h"
  "cli|app/main.h" "vision|core/measures/measure.h" "catalog|store/library.h" "present|QWidget" "present|pipeline/barrier.h"
  "core/base|core/track/track.h" "core/body|core/track/track.h" "core/reps|core/measures/measure.h"
  "core/judge|core/advice/advice.h" "core/advice|core/session/session.h" "record|app/parts/stage.h"
  "app/parts|app/review/review_view.h" "app/home|app/film/film_view.h" "app/client|app/shell/main_window.h")
foreach(stray ${strays})
  string(REPLACE "|" ";" parts "${stray}")
  list(GET parts 0 room)
  list(GET parts 1 header)
  file(REMOVE_RECURSE ${WORK_DIR})
  file(WRITE ${WORK_DIR}/src/${room}/x.h "#include <vector>\n")
  execute_process(COMMAND ${CMAKE_COMMAND} -DSOURCE_DIR=${WORK_DIR} -P ${CHECK} RESULT_VARIABLE clean ERROR_QUIET OUTPUT_QUIET)
  file(WRITE ${WORK_DIR}/src/${room}/x.h "#include <vector>\n#include <${header}>\n")
  execute_process(COMMAND ${CMAKE_COMMAND} -DSOURCE_DIR=${WORK_DIR} -P ${CHECK} RESULT_VARIABLE caught ERROR_QUIET OUTPUT_QUIET)
  if(NOT clean EQUAL 0 OR caught EQUAL 0)
    message(FATAL_ERROR "src/${room} including ${header} went unnoticed (${clean}, ${caught})")
  endif()
endforeach()
# A folder of core, or of the window, without a place in the order is none of ours.
foreach(attic core/attic app/attic)
  file(REMOVE_RECURSE ${WORK_DIR})
  file(WRITE ${WORK_DIR}/src/${attic}/x.h "#include <vector>\n")
  execute_process(COMMAND ${CMAKE_COMMAND} -DSOURCE_DIR=${WORK_DIR} -P ${CHECK} RESULT_VARIABLE caught ERROR_QUIET OUTPUT_QUIET)
  if(caught EQUAL 0)
    message(FATAL_ERROR "a new folder went unnoticed: src/${attic}")
  endif()
endforeach()
