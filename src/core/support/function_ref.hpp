#pragma once
#include <memory>
#include <type_traits>
#include <utility>

namespace fulmox {

template <class Signature> class FunctionRef;

/// A callable that lives elsewhere, for the time of a call: as std::function, without its heap.
template <class R, class... A> class FunctionRef<R(A...)> {
public:
  template <class F>
  requires(!std::is_same_v<std::remove_cvref_t<F>, FunctionRef>) FunctionRef(const F& f)
      : object_(std::addressof(f)), call_([](const void* object, A... arguments) -> R {
          return (*static_cast<const F*>(object))(std::forward<A>(arguments)...);
        }) {}

  R operator()(A... arguments) const { return call_(object_, std::forward<A>(arguments)...); }

private:
  const void* object_;
  R (*call_)(const void*, A...);
};

} // namespace fulmox
