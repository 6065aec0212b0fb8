cmake_minimum_required(VERSION 3.25)
# Enforces the rooms of docs/architecture.md by the includes of their files:
#   cmake -DSOURCE_DIR=… -P check_layers.cmake
set(failures 0)
# room; headers it must not include (regular expressions on the text between the quotes or brackets)
set(rooms pose vision media sim pipeline catalog store record present app cli)
set(gui "QWidget|QApplication|QPushButton|QLabel|QMainWindow|QDialog|QListWidget|QComboBox")
set(rules
  "core|^(Q[A-Z]|opencv|libav|libsw|xnnpack|filesystem|fstream|thread|mutex|(pose|vision|media|sim|pipeline|catalog|store|record|present|app|cli)/)"
  "vision|^(Q[A-Z]|libav|libsw|xnnpack|(pose|media|sim|pipeline|catalog|store|record|present|app|cli)/|core/(series|reps|balance|measures|judge|advice|session|live|serial)/)"
  "pose|^(Q[A-Z]|opencv|libav|libsw|(vision|media|sim|pipeline|catalog|store|record|present|app|cli)/|core/(series|reps|balance|measures|judge|advice|session|live|serial)/)"
  "media|^(Q[A-Z]|opencv|xnnpack|(pose|vision|sim|pipeline|catalog|store|record|present|app|cli)/|core/(track|series|reps|balance|measures|judge|advice|session|serial)/)"
  "sim|^(Q[A-Z]|opencv|libav|libsw|xnnpack|(pose|vision|pipeline|catalog|store|record|present|app|cli)/)"
  "catalog|^(Q[A-Z]|opencv|libav|libsw|xnnpack|(pose|vision|media|sim|pipeline|store|record|present|app|cli)/)"
  "pipeline|^(Q[A-Z]|opencv|libav|libsw|xnnpack|(store|record|present|app|cli)/)"
  "store|^(${gui}|QPainter|QGui|opencv|libav|libsw|xnnpack|(pose|vision|media|sim|pipeline|catalog|record|present|app|cli)/)"
  "present|^(${gui}|opencv|libav|libsw|xnnpack|(pose|vision|media|sim|pipeline|store|record|app|cli)/)"
  "record|^(${gui}|QPainter|opencv|libav|libsw|xnnpack|(media|vision|sim|app|cli)/)"
  "app|^(opencv|libav|libsw|xnnpack|(media|vision|sim|cli)/)"
  "cli|^(${gui}|opencv|libav|libsw|xnnpack|app/)")
# Core's own folders look down only: each may include those before it.
set(core_folders base signal body track series statistics reps back marks balance measures judge advice session live serial)
set(later ${core_folders})
foreach(folder ${core_folders})
  list(POP_FRONT later)
  if(later)
    list(JOIN later "|" names)
    list(APPEND rules "core/${folder}|^core/(${names})/")
  endif()
endforeach()
# So do the window's: what pages are made of, then the pages, of which none knows another, then the shell with the window.
set(app_parts theme work parts care)
set(app_pages home client film review compare)
set(later ${app_parts} ${app_pages} shell)
foreach(folder ${app_parts})
  list(POP_FRONT later)
  list(JOIN later "|" names)
  list(APPEND rules "app/${folder}|^app/(${names})/")
endforeach()
foreach(folder ${app_pages})
  set(others ${app_pages} shell)
  list(REMOVE_ITEM others ${folder})
  list(JOIN others "|" names)
  list(APPEND rules "app/${folder}|^app/(${names})/")
endforeach()
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
# A folder of core, or of the window, that no rule speaks of would be free to look anywhere.
file(GLOB entries RELATIVE ${SOURCE_DIR}/src/core ${SOURCE_DIR}/src/core/*)
foreach(entry ${entries})
  if(IS_DIRECTORY ${SOURCE_DIR}/src/core/${entry} AND NOT entry IN_LIST core_folders)
    message(SEND_ERROR "src/core/${entry} has no place in the order of core's folders (cmake/check_layers.cmake)")
  endif()
endforeach()
file(GLOB entries RELATIVE ${SOURCE_DIR}/src/app ${SOURCE_DIR}/src/app/*)
foreach(entry ${entries})
  if(IS_DIRECTORY ${SOURCE_DIR}/src/app/${entry} AND NOT entry IN_LIST app_parts AND NOT entry IN_LIST app_pages
     AND NOT entry STREQUAL shell)
    message(SEND_ERROR "src/app/${entry} is neither a page nor a part of one (cmake/check_layers.cmake)")
  endif()
endforeach()
