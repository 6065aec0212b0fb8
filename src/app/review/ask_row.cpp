#include "app/review/ask_row.h"

#include <QPushButton>
#include <algorithm>

#include "app/parts/flow_layout.h"
#include "app/theme/parts.h"
#include "present/log_words.h"

namespace zevo::app {

AskRow::AskRow(QWidget* parent) : QWidget(parent) {
    setObjectName("askRow");
    setAccessibleName(tr("What was asked"));
    setLayout(new FlowLayout(6));
    QSizePolicy fits(QSizePolicy::Preferred, QSizePolicy::Fixed);
    fits.setHeightForWidth(true);
    setSizePolicy(fits);
    hide();
}

QPushButton* AskRow::chipOf(const QString& kind) const {
    for (QWidget* w : m_shown)
        if (w->objectName() == "ask-" + kind) return qobject_cast<QPushButton*>(w);
    return nullptr;
}

void AskRow::setHost(QWidget* host) {
    if (m_host == host) return;
    m_host = host;
    QWidget* into = host ? host : this;
    for (QWidget* w : m_shown) {
        w->setParent(into);
        into->layout()->addWidget(w);
        w->show();
    }
    setVisible(!host && !m_shown.empty());
}

QPushButton* AskRow::add(const QString& name, const QString& text) {
    QWidget* into = m_host ? m_host : this;
    QPushButton* b = chip(into, name, text);
    into->layout()->addWidget(b);
    b->show();
    m_shown.push_back(b);
    return b;
}

void AskRow::setAsks(const Asks& before, const Asks& after, const Movement& movement, const Catalogue& catalogue,
                     present::Lengths lengths) {
    // A button may be on its way through its own click.
    for (QWidget* w : m_shown) w->hide(), w->setObjectName({}), w->deleteLater();
    m_shown.clear();
    auto of = [&](const Asks& asks, const AskKind& kind) -> const Ask* {
        const auto found = std::find_if(asks.begin(), asks.end(),
                                        [&](const Ask& a) { return kindOf(a, catalogue.asks, movement) == &kind; });
        return found == asks.end() ? nullptr : &*found;
    };
    for (const AskKind& kind : catalogue.asks) {
        const Ask *was = of(before, kind), *is = of(after, kind);
        if (!was && !is) continue;
        auto words = [&](const Ask& a) { return present::askText(a, catalogue.asks, movement, lengths); };
        const QString next = is ? words(*is) : tr("lifted");
        const QString text = !was                ? tr("Next: %1").arg(next)
                             : is && *was == *is ? tr("Asked: %1").arg(next)
                                                 : tr("Asked: %1 → next: %2").arg(words(*was), next);
        const QString id = QString::fromStdString(kind.id);
        QPushButton* chip = add("ask-" + id, text);
        chip->setCheckable(true);
        chip->setChecked(is != nullptr);
        const QString origin = present::askOrigin(is ? *is : *was, catalogue.advice);
        const QString tap =
            !is ? tr("Tap: it is asked again") : tr("Tap: it is not asked any more, from the next set on");
        chip->setToolTip(origin.isEmpty() ? tap : origin + "\n" + tap);
        chip->setAccessibleDescription(chip->toolTip());
        connect(chip, &QPushButton::clicked, this,
                [this, was = was ? std::optional(*was) : std::nullopt, is = is ? std::optional(*is) : std::nullopt] {
                    if (is)
                        emit lifted(*is);
                    else
                        emit taken(*was);
                });
        if (!is) continue;
        const std::pair<bool, QString> ways[] = {{false, tr("easier")}, {true, tr("harder")}};
        for (const auto& [harder, word] : ways) {
            const auto rung = nextRung(*is, kind, harder);
            if (!rung) continue;
            QPushButton* b = add((harder ? "harder-" : "easier-") + id, word);
            b->setAccessibleName(tr("%1: %2").arg(word, words(*rung)));
            b->setToolTip(tr("From the next set on: %1").arg(words(*rung)));
            connect(b, &QPushButton::clicked, this, [this, rung = *rung] { emit taken(rung); });
        }
    }
    setVisible(!m_host && !m_shown.empty());
    layout()->invalidate();
    updateGeometry();
}

}  // namespace zevo::app
