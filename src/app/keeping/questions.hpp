#pragma once
#include "core/keeping/kept_work.hpp"
#include "core/project/differences.hpp"

#include <QString>

class QWidget;

namespace fulmox::app {

/// "25 Nov 2026, 14:05" of a time in s since 1970.
QString when_told(std::int64_t time);
/// How much work a side file holds: "12 changes, kept 25 Nov 2026, 14:05".
QString work_told(const KeptWork& work);

/// Asks whether to take up unsaved work of a file. `damage` tells why the file itself cannot be read; "" when
/// it can. Escape means no; nothing is thrown away by any answer.
bool ask_take_up(QWidget* parent, const KeptWork& work, const QString& path, const QString& damage);

enum class DiskAnswer { take_theirs, keep_mine, save_as, cancel };
/// Asks what to do with a file that somebody else has changed. `theirs` is empty when it cannot be read.
DiskAnswer ask_about_disk(QWidget* parent, const QString& path, const std::optional<Document>& theirs,
                          const Document& mine);

} // namespace fulmox::app
