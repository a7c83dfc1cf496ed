#pragma once

namespace fulmox::testing {

/// From now on the calls open, mkostemps, write, fchmod, fsync, close and rename are counted. The one
/// numbered FULMOX_FAULT_AT (from 1) ends the process as a power cut would, or, with FULMOX_FAULT=fail, is
/// refused for want of space.
void arm_faults();
void disarm_faults();
long calls_made();

} // namespace fulmox::testing
