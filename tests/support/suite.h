#pragma once

#include <QCoreApplication>
#include <QTest>
#include <functional>
#include <map>

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

}  // namespace suites

#define ZEVO_SUITE(Class, name) \
    static const suites::Add addSuite##Class(name, [] { return static_cast<QObject*>(new Class); });
