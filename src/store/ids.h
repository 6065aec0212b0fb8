#pragma once

#include <QByteArray>
#include <QString>
#include <QUuid>
#include <string>

namespace zevo::store {

/// What something in the record is known by: a random UUID (RFC 4122), so that another computer may make one, none is
/// ever used again, and nothing about a client can be read from it. One type a kind of thing, so that a client's
/// cannot be passed for a set's. Made without a value it is nobody's.
template <typename Of>
class Id {
  public:
    Id() = default;
    explicit Id(const QUuid& uuid) : m_uuid(uuid) {}
    static Id fresh() { return Id(QUuid::createUuid()); }
    /// Nobody's where the text is none.
    static Id fromText(const QString& text) { return Id(QUuid::fromString(text)); }
    static Id fromBytes(const QByteArray& bytes) { return Id(QUuid::fromRfc4122(bytes)); }

    bool isNull() const { return m_uuid.isNull(); }
    /// "5f0c…-…", without braces.
    QString text() const { return m_uuid.toString(QUuid::WithoutBraces); }
    std::string key() const { return text().toStdString(); }
    /// Sixteen bytes.
    QByteArray bytes() const { return m_uuid.toRfc4122(); }
    const QUuid& uuid() const { return m_uuid; }

    bool operator==(const Id& o) const { return m_uuid == o.m_uuid; }
    bool operator<(const Id& o) const { return m_uuid < o.m_uuid; }

  private:
    QUuid m_uuid;
};

using ClientId = Id<struct ClientTag>;
using SessionId = Id<struct SessionTag>;
using SetId = Id<struct SetTag>;
using ClipId = Id<struct ClipTag>;
using ObservationId = Id<struct ObservationTag>;
/// Of an entry in a set's list of edits.
using EntryId = Id<struct EntryTag>;

}  // namespace zevo::store
