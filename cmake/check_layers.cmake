# Enforces the rooms of docs/architecture.md by the includes of their files:
#   cmake -DSOURCE_DIR=… -P check_layers.cmake
set(failures 0)
# room; headers it must not include (regular expressions on the text between the quotes or brackets)
set(rules
  "core|^(Q[A-Z]|opencv|libav|libsw|xnnpack|filesystem|fstream|thread|mutex|pose/|media/|sim/|store/|analysis/|app/|cli/)"
  "pose|^(Q[A-Z]|opencv|libav|libsw|media/|sim/|store/|analysis/|app/|cli/)"
  "media|^(Q[A-Z]|opencv|xnnpack|pose/|sim/|store/|analysis/|app/|cli/|core/(measures|findings|standards|advice|reps|track|results)/)"
  "sim|^(Q[A-Z]|opencv|libav|libsw|xnnpack|pose/|store/|analysis/|app/|cli/)"
  "store|^(QWidget|QApplication|QPainter|QGui|opencv|libav|libsw|xnnpack|pose/|media/|sim/|analysis/|app/|cli/)"
  "analysis|^(Q[A-Z]|opencv|libav|libsw|xnnpack|app/|cli/)"
  "app|^(opencv|libav|libsw|xnnpack|media/|sim/|cli/)"
  "cli|^(QWidget|QApplication|opencv|libav|libsw|xnnpack|app/)")
foreach(rule ${rules})
  string(REPLACE "|" ";" parts "${rule}")
  list(POP_FRONT parts room)
  list(JOIN parts "|" forbidden)
  file(GLOB_RECURSE files ${SOURCE_DIR}/src/${room}/*.h ${SOURCE_DIR}/src/${room}/*.cpp)
  foreach(file ${files})
    file(STRINGS ${file} includes REGEX "^[ \t]*#[ \t]*include")
    foreach(line ${includes})
      string(REGEX REPLACE ".*[<\"]([^>\"]+)[>\"].*" "\\1" header "${line}")
      if(header MATCHES "${forbidden}")
        message(SEND_ERROR "${file}: src/${room} must not include ${header}")
      endif()
    endforeach()
  endforeach()
endforeach()
