// The program under a decimal comma, as on most machines of Europe: numbers in files, records and command lines keep
// their point, those on the screen their comma. And what is thrown or marked up from outside harms nothing. Run with a
// locale that the build makes (LC_ALL, LOCPATH).
#include <QDoubleSpinBox>
#include <QLabel>
#include <QTemporaryDir>
#include <QTest>
#include <QToolTip>
#include <clocale>

#include "app/shell/application.h"
#include "app/shell/main_window.h"
#include "catalog/data_files.h"
#include "core/base/number_text.h"
#include "core/marks/marks.h"
#include "core/serial/edit_json.h"
#include "pipeline/demo_maker.h"
#include "present/log_words.h"
#include "tests/support/libraries.h"

using namespace zevo;
using namespace zevo::app;

class TestApplication : public QObject {
    Q_OBJECT
  private slots:
    void initTestCase() {
        // The guard that everything below stands on: C's own reader takes the point for the end of the number here.
        QCOMPARE(std::localeconv()->decimal_point, ",");
        QCOMPARE(std::strtod("12.5", nullptr), 12.0);
        QCOMPARE(QLocale().decimalPoint(), QString(","));
    }

    void numbersOfFilesKeepTheirPoint() {
        QCOMPARE(*numberFrom("12.5"), 12.5);
        for (const char* bad : {"12,5", "12.5 ", "", "nan", "inf", "1e999", "0x1p3"}) QVERIFY2(!numberFrom(bad), bad);
        QCOMPARE(numberText(12.5), std::string("12.5"));
        for (double v : {0.1, 1.0 / 3, 1e-9, -273.15}) QCOMPARE(*numberFrom(numberText(v)), v);
        const auto marks = marksFromText("bell@1.25,640.5,410;bell@2.5,1,2", {});
        QVERIFY(marks && marks->at(0).clicks.size() == 2);
        QCOMPARE(marks->at(0).clicks[0].atS, 1.25);
        for (const char* bad : {"bell@1,640", "bell@1.2,3,4,5", "bell@1.2,3,4x", "bell@", "bell", "nose@1,2,3"})
            QVERIFY2(!marksFromText(bad, {}), bad);
        Edits edits{FactsSet{}};
        std::get<FactsSet>(edits[0]).facts.log.load = {"bell", 12.5, 0};
        const auto [kind, payload] = writeEdit(edits[0]);
        QVERIFY(payload.find("12.5") != std::string::npos);
        QVERIFY(*readEdit(kind, payload) == edits[0]);
    }

    /// The demo's story is read, marks and all.
    void theDemoStarts() {
        const auto demo = pipeline::loadDemo({});
        QVERIFY2(bool(demo), demo ? "" : made::words(demo.error()));
        QVERIFY(demo->size() >= 9);
        QVERIFY(bool(catalog::loadCatalogue({})));
    }

    void aLoadReadsAsItWasSaid() {
        SetFacts before, after;
        before.log.load = {"bell", 10, 0}, after.log.load = {"bell", 12.5, 0};
        after.log.boxCm = 42.5;
        QStringList words;
        for (const auto& c : setUpChanges(before, after))
            words.append(present::changeText(c, *made::catalogue(), "squat", present::Lengths::Metric));
        QVERIFY2(words.join("; ").contains("12,5"), qPrintable(words.join("; ")));
    }

    /// Typed with a comma, kept with a point, shown with a comma again after the window was closed.
    void aWeightIsTypedAndKept() {
        QTemporaryDir dir;
        store::SetId id{};
        {
            auto library = made::library(dir.path());
            const auto client = *library.addClient({{}, "Jörg <b>Tolland</b>", 175, "", {}});
            id = *library.addSet(made::newSet(client, "clip"));
        }
        for (bool typed : {false, true}) {
            MainWindow window(made::library(dir.path()));
            window.show();
            window.openSet(id);
            QTRY_VERIFY_WITH_TIMEOUT(window.review()->hasSet(), 600000);
            auto* each = window.review()->logRow()->findChild<QDoubleSpinBox*>("eachKg");
            QVERIFY(each);
            if (!typed) {
                each->selectAll();
                QTest::keyClicks(each, "12,5");
                QTest::keyClick(each, Qt::Key_Return);
                QCOMPARE(window.review()->document().facts().log.load.eachKg, 12.5);
            } else {
                QCOMPARE(each->value(), 12.5);
                QVERIFY(each->text().startsWith("12,5"));
            }
            // Whoever is called so is shown so, and nothing is marked up.
            auto* title = window.findChild<QLabel*>("title");
            QVERIFY(title && title->text().contains("<b>") && title->textFormat() == Qt::PlainText);
            window.close();
        }
    }

    void whatAHandlerThrowsEndsThatHandlerAlone() {
        auto* app = qobject_cast<Application*>(QCoreApplication::instance());
        QVERIFY(app);
        std::vector<Error> caught;
        app->setOnCaught([&](const Error& e) { caught.push_back(e); });
        struct Throws : QObject {
            bool event(QEvent* e) override {
                if (e->type() == QEvent::User) throw std::length_error("too long");
                return QObject::event(e);
            }
        } throws;
        QCoreApplication::postEvent(&throws, new QEvent(QEvent::User));
        QCoreApplication::processEvents();
        QCOMPARE(caught.size(), std::size_t{1});
        QVERIFY(caught[0].detail.find("too long") != std::string::npos);
        app->setOnCaught({});
        QCoreApplication::postEvent(&throws, new QEvent(QEvent::User));
        QCoreApplication::processEvents();  // and without anybody who listens
    }

    /// A standard from elsewhere: an id as long as a novel is refused with its reason, and so is such a title.
    void aStandardWithAnEndlessNameIsRefused() {
        QTemporaryDir dir;
        const auto text = catalog::readTextFile(catalog::dataDir() + "/standards/upright.json");
        QVERIFY(bool(text));
        auto import = [&](const std::string& key, const std::string& value) {
            auto o = nlohmann::json::parse(*text);
            o["id"] = "yard";
            o[key] = value;
            const std::string path = dir.filePath("imported.json").toStdString();
            if (!catalog::writeTextFile(path, o.dump())) qFatal("not written");
            return catalog::importStandard(path, dir.filePath("own").toStdString());
        };
        QVERIFY(bool(import("id", "yard-two")));
        for (std::size_t n : {65, 255, 300, 100000}) {
            const auto refused = import("id", std::string(n, 'a'));
            QVERIFY(!refused && refused.error().message.find("at most 64") != std::string::npos);
            QVERIFY(refused.error().message.size() < 400);
        }
        QVERIFY(!import("title", std::string(500, 't')));
        // One that lies there already, by whatever way, is passed over.
        QVERIFY(!catalog::loadStandard(std::string(400, 'x'), dir.filePath("own").toStdString()));
    }
};

int main(int argc, char** argv) {
    Application app(argc, argv);
    TestApplication test;
    return QTest::qExec(&test, argc, argv);
}
#include "test_application.moc"
