#pragma once
#include <QToolButton>
#include <QWidget>

#include <cstddef>
#include <vector>

namespace fulmox::app {

/// The pages of Match in words with their counts, and the button that stops a search.
class MatchHead : public QWidget {
  Q_OBJECT

public:
  enum Page { fits, misses, killers, compare, kinds, choices, pages };

  explicit MatchHead(QWidget* parent = nullptr);

  struct Told {
    QString fits, misses;   ///< how many there are; "…" while that is not known
    std::size_t marked = 0; ///< that are to be compared
    bool running = false;
  };
  void tell(const Told& told, Page page);

signals:
  void turned(fulmox::app::MatchHead::Page page);
  void stopped();

private:
  std::vector<QToolButton*> words_;
  QToolButton* stop_;
};

} // namespace fulmox::app
