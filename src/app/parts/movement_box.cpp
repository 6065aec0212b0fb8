#include "app/parts/movement_box.h"

namespace zevo::app {

void MovementBox::fill(const Catalogue& catalogue) {
    const QString movement = currentData().toString(), variation = currentData(Qt::UserRole + 1).toString();
    clear();
    auto add = [this](const QString& text, const QString& id, const QString& variationId) {
        addItem(text, id);
        setItemData(count() - 1, variationId, Qt::UserRole + 1);
    };
    for (const auto& m : catalogue.movements) {
        const QString title = QString::fromStdString(m.title), id = QString::fromStdString(m.id);
        add(title, id, "");
        for (const auto& v : m.variations)
            add(title + ", " + QString::fromStdString(v.title).toLower(), id, QString::fromStdString(v.id));
    }
    choose(movement.toStdString(), variation.toStdString());
}

void MovementBox::choose(const std::string& movement, const std::string& variation) {
    for (int i = 0; i < count(); ++i)
        if (itemData(i).toString().toStdString() == movement &&
            itemData(i, Qt::UserRole + 1).toString().toStdString() == variation)
            return setCurrentIndex(i);
}

}  // namespace zevo::app
