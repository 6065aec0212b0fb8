#include <QCoreApplication>
#include <QGuiApplication>
#include <cstdio>
#include <memory>

#include "tests/support/suite.h"

int main(int argc, char** argv) {
    // Fonts need a platform; nothing else here does.
    const bool draws = argc > 1 && suites::drawing().contains(argv[1]);
    const std::unique_ptr<QCoreApplication> application(draws ? new QGuiApplication(argc, argv)
                                                              : new QCoreApplication(argc, argv));
    if (argc == 4 && QString(argv[1]) == "--role") return suites::roles().at(argv[2])(argv[3]);
    const auto found = argc > 1 ? suites::all().find(argv[1]) : suites::all().end();
    if (found == suites::all().end()) {
        std::fprintf(stderr, "Name one of:");
        for (const auto& [name, make] : suites::all()) std::fprintf(stderr, " %s", qPrintable(name));
        std::fprintf(stderr, "\n");
        return 2;
    }
    const std::unique_ptr<QObject> suite(found->second());
    argv[1] = argv[0];
    return QTest::qExec(suite.get(), argc - 1, argv + 1);
}
