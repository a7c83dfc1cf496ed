#pragma once
#include "core/project/document.hpp"

#include <QString>

namespace fulmox::app {

/// Prints the worksheet on A4 pages with the page number below. False when the file cannot be written.
bool write_worksheet_pdf(const Document& document, const QString& path);

} // namespace fulmox::app
