#pragma once
#include "core/quantity/kind.hpp"

#include <string_view>
#include <utility>
#include <vector>

namespace fulmox {

struct Point {
  double x = 0.0, y = 0.0; ///< m; y upwards
};

/// What a line stands for; the window gives it its colours.
enum class Ink : std::uint8_t { frame, part, load, motor, reach, hole, hint };

/// A polygon, a polyline or a circle, in metres.
struct Shape {
  Ink ink = Ink::part;
  std::vector<Point> points; ///< a circle's centre
  bool closed = true;
  double radius = 0.0; ///< > 0 for a circle
};

/// A measure between two points, tied to the input it shows.
struct Measure {
  Point from, to;
  std::string_view field; ///< path of an input ("mechanism.lead") or "" for what only follows
  double value = 0.0;
  Kind kind = Kind::length;
};

/// A to-scale picture in neutral terms: mechanisms draw themselves without knowing a window.
class Drawing {
public:
  std::vector<Shape> shapes;
  std::vector<Measure> measures;
  /// The place worth a closer look when the whole is long and slender; radius 0: none.
  Point detail;
  double detail_radius = 0.0;

  void line(Ink ink, Point from, Point to) { shapes.push_back({ink, {from, to}, false, 0.0}); }
  void polyline(Ink ink, std::vector<Point> points) {
    shapes.push_back({ink, std::move(points), false, 0.0});
  }
  void polygon(Ink ink, std::vector<Point> points) { shapes.push_back({ink, std::move(points), true, 0.0}); }
  void circle(Ink ink, Point centre, double radius) { shapes.push_back({ink, {centre}, true, radius}); }
  /// A rectangle about its centre, turned by an angle in rad.
  void box(Ink ink, Point centre, double width, double height, double angle = 0.0);
  /// A circle with a spoke that shows how far it has turned.
  void wheel(Ink ink, Point centre, double radius, double angle);
  /// A measure drawn `away` metres beside the line it measures, to the left of its direction when positive.
  void measure(Point from, Point to, double away, std::string_view field, double value,
               Kind kind = Kind::length);
  /// Turns everything about the origin.
  void turn(double angle);
  [[nodiscard]] std::pair<Point, Point> bounds() const; ///< lower left, upper right
};

Point turned(Point point, double angle);

} // namespace fulmox
