#include "store/old_packing.h"

#include <QDataStream>
#include <QIODevice>

namespace zevo::store {
namespace {

constexpr quint32 kPoses = 0x5a504f31, kOutlines = 0x5a4f4c31;  // "ZPO1", "ZOL1"

void prepare(QDataStream& s) {
    s.setVersion(QDataStream::Qt_6_4);
    s.setByteOrder(QDataStream::LittleEndian);
    s.setFloatingPointPrecision(QDataStream::SinglePrecision);
}

double getDouble(QDataStream& s) {
    quint64 bits = 0;
    double v = 0;
    s >> bits;
    memcpy(&v, &bits, sizeof v);
    return v;
}

/// Reads `count` items with `read`, each at least `smallest` bytes long, so that a damaged count cannot ask for
/// more memory than the block could fill.
template <typename Item, typename Read>
Result<std::vector<Item>> unpack(const QByteArray& block, quint32 kind, int smallest, Read read) {
    const Error damaged{"The record of this set is damaged. Open its clip again to measure it anew.", "bad block"};
    const QByteArray raw = qUncompress(block);
    QDataStream s(raw);
    prepare(s);
    quint32 found = 0, count = 0;
    s >> found >> count;
    if (s.status() != QDataStream::Ok || found != kind || static_cast<qint64>(count) * smallest > raw.size())
        return damaged;
    std::vector<Item> out(count);
    for (auto& item : out) read(s, item, raw.size());
    if (s.status() != QDataStream::Ok || !s.atEnd()) return damaged;
    return out;
}

}  // namespace

Result<PoseFrames> unpackOldPoses(const QByteArray& block) {
    constexpr int kFrameBytes = 8 + 1 + 4 + 33 * 7 * 4 + 4 * 4 * 4;
    return unpack<PoseFrame>(block, kPoses, kFrameBytes, [](QDataStream& s, PoseFrame& f, qsizetype) {
        f.timeS = getDouble(s);
        quint8 found = 0;
        s >> found >> f.score;
        f.found = found != 0;
        for (auto& p : f.points) s >> p.x >> p.y >> p.visibility >> p.presence;
        for (auto& w : f.world) s >> w[0] >> w[1] >> w[2];
        for (auto& p : f.feet) {
            qint32 stretch = 0;
            s >> p.x >> p.y >> p.score >> stretch;
            p.stretch = stretch;
        }
    });
}

Result<std::vector<Outline>> unpackOldOutlines(const QByteArray& block) {
    return unpack<Outline>(block, kOutlines, 12, [](QDataStream& s, Outline& o, qsizetype all) {
        o.timeS = getDouble(s);
        quint32 count = 0;
        s >> count;
        if (static_cast<qint64>(count) * 8 > all) {
            s.setStatus(QDataStream::ReadCorruptData);
            return;
        }
        o.points.resize(count);
        for (auto& [x, y] : o.points) s >> x >> y;
    });
}

}  // namespace zevo::store
