#pragma once

#include <QCoreApplication>
#include <QTest>
#include <functional>
#include <map>
#include <set>

/// Several test classes in one program: linking is half of what building the tests costs. Each is a test of its own to
/// ctest, and can be run alone:  test_core findings [Qt Test's own arguments]
namespace suites {

using Make = std::function<QObject*()>;

inline std::map<QString, Make>& all() {
    static std::map<QString, Make> suites;
    return suites;
}

struct Add {
    Add(const char* name, Make make) { all()[name] = std::move(make); }
};

/// Suites that draw text.
inline std::set<QString>& drawing() {
    static std::set<QString> names;
    return names;
}
struct AddDrawing {
    explicit AddDrawing(const char* name) { drawing().insert(name); }
};

/// What a test starts of itself as another process, to be killed: `PROGRAM --role NAME ARGUMENT`.
using Role = std::function<int(const QString& argument)>;
inline std::map<QString, Role>& roles() {
    static std::map<QString, Role> all;
    return all;
}
struct AddRole {
    AddRole(const char* name, Role role) { roles()[name] = std::move(role); }
};

}  // namespace suites

#define ZEVO_SUITE(Class, name) \
    static const suites::Add addSuite##Class(name, [] { return static_cast<QObject*>(new Class); });
#define ZEVO_DRAWING_SUITE(Class, name) \
    ZEVO_SUITE(Class, name)             \
    static const suites::AddDrawing addDrawing##Class(name);
