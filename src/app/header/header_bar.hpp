#pragma once
#include "app/widgets/retired_widgets.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <QWidget>

#include <optional>
#include <vector>

namespace fulmox::app {

class Session;

/// Machine name, one chip per axis, undo and redo, unit set, house rules, search.
class HeaderBar : public QWidget {
  Q_OBJECT

public:
  HeaderBar(Session& session, QMenu* machine_menu, QWidget* parent = nullptr);

signals:
  void find_requested();
  void add_axis_requested();

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  /// What all words of the chips follow from, in figures.
  struct Said {
    int width = 0;
    std::size_t axis = 0;
    QString name;
    double attention = 0.0;
    struct OfAxis {
      std::string name;
      bool unknown, over, tight;
      double percent;
      QString open;
      bool operator==(const OfAxis&) const = default;
    };
    std::vector<OfAxis> axes;
    bool operator==(const Said&) const = default;
  };
  void refresh();
  void show_name(const QString& name);
  [[nodiscard]] Said said() const;
  [[nodiscard]] QString chip_text(std::size_t axis, int brevity) const;
  [[nodiscard]] QStringList chip_texts(int brevity) const;
  [[nodiscard]] QStringList fuller_texts(int brevity) const;
  [[nodiscard]] int room_for(const QStringList& texts) const;
  [[nodiscard]] bool chips_still_fit() const;
  void fit_chips();
  void check_chips();
  void tell_chips();
  void word_chips(int brevity);
  void hide_far_chips();
  void list_axes();
  void rebuild_chips();
  QToolButton* tool(const QString& text, const QString& tip, const QString& name);

  Session& session_;
  QLineEdit* name_;
  QHBoxLayout* chip_row_;
  std::vector<QToolButton*> chips_;
  /// What the chips were fitted to last.
  struct Fitted {
    int width = 0;
    std::size_t axis = 0;
    QString name;              ///< of the machine: it takes room
    int brevity = 0, more = 0; ///< px that the words would take if they said more
    QStringList texts, fuller; ///< what they say, and what they would say then
  };
  std::optional<Fitted> fitted_;
  Said said_;
  RetiredWidgets retired_;
  QToolButton *all_axes_, *add_, *undo_, *redo_;
  QComboBox *units_, *rules_;
};

} // namespace fulmox::app
