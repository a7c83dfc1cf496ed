#include "core/support/process.hpp"

#include <array>
#include <charconv>
#include <fstream>
#include <sys/utsname.h>
#include <unistd.h>

namespace fulmox {
namespace {

/// The 22nd member of /proc/ID/stat; 0 when there is no such process. The second one, the name of the
/// program in brackets, may hold anything.
unsigned long long start_of(int id) {
  std::ifstream in("/proc/" + std::to_string(id) + "/stat");
  std::string line;
  if (!std::getline(in, line)) return 0;
  auto at = line.rfind(')');
  for (int member = 2; member < 22 && at != std::string::npos; ++member) at = line.find(' ', at + 1);
  if (at == std::string::npos) return 0;
  unsigned long long start = 0;
  std::from_chars(line.data() + at + 1, line.data() + line.size(), start);
  return start;
}

/// The machine since its last start: numbers of processes mean nothing beyond it.
std::string host_name() {
  std::string boot;
  std::ifstream("/proc/sys/kernel/random/boot_id") >> boot;
  utsname about{};
  std::string name = ::uname(&about) == 0 ? about.nodename : "";
  std::string out;
  for (const char c : name + boot.substr(0, 8))
    if (std::isalnum(static_cast<unsigned char>(c))) out += c;
  return out.substr(0, 60);
}

template <class Number> std::string hexadecimal(Number number) {
  std::array<char, 20> text{};
  return {text.data(), std::to_chars(text.data(), text.data() + text.size(), number, 16).ptr};
}

template <class Number> bool read(std::string_view text, Number& number) {
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number, 16);
  return error == std::errc{} && end == text.data() + text.size();
}

} // namespace

std::string Process::text() const { return host + "-" + hexadecimal(id) + "-" + hexadecimal(start); }

Process process_from(std::string_view text) {
  const auto last = text.rfind('-');
  const auto first = last == std::string_view::npos || last == 0 ? last : text.rfind('-', last - 1);
  Process out;
  if (first == std::string_view::npos) return out;
  if (!read(text.substr(first + 1, last - first - 1), out.id) || !read(text.substr(last + 1), out.start) ||
      out.id <= 0)
    return {};
  out.host = text.substr(0, first);
  return out;
}

Process this_process() {
  static const Process self{host_name(), ::getpid(), start_of(::getpid())};
  return self;
}

bool running(const Process& process) {
  if (process.id == 0) return false;
  if (process.host != this_process().host) {
    // another start of this machine has ended all of its processes
    const std::string& here = this_process().host;
    const bool same_machine = here.size() == process.host.size() && here.size() > 8 &&
                              here.compare(0, here.size() - 8, process.host, 0, here.size() - 8) == 0;
    return !same_machine;
  }
  const unsigned long long start = start_of(process.id);
  return start != 0 && start == process.start;
}

} // namespace fulmox
