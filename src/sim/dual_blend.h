#pragma once

// What a vertex of a skinned mesh makes of the bones that move it; not for use outside figures.

#include <Eigen/Geometry>

#include "core/base/vectors.h"

namespace zevo::sim {

/// A turn and a shift after it as a dual quaternion.
struct DualMotion {
    Eigen::Vector4d real = Eigen::Vector4d::Zero(), dual = Eigen::Vector4d::Zero();

    DualMotion() = default;
    DualMotion(const Eigen::Quaterniond& turn, const Vec3& shift)
        : real(turn.coeffs()), dual((Eigen::Quaterniond(0, shift.x(), shift.y(), shift.z()) * turn).coeffs() * 0.5) {}
};

/// Blends motions by their shares (Kavan et al. 2007): keeps the volume of a bent limb, where blended places lose it.
class DualBlend {
  public:
    /// `first`: the motion with the largest share; of the two quaternions of a turn the one on its side counts.
    explicit DualBlend(const DualMotion& first) : m_first(first.real) {}
    void add(const DualMotion& motion, double share) {
        const double w = motion.real.dot(m_first) < 0 ? -share : share;
        m_sum.real += w * motion.real;
        m_sum.dual += w * motion.dual;
    }
    /// Of the shares added so far.
    void read(Eigen::Quaterniond& turn, Vec3& shift) const {
        const double size = m_sum.real.norm();
        turn = Eigen::Quaterniond(Eigen::Vector4d(m_sum.real / size));
        const Eigen::Quaterniond e(Eigen::Vector4d(m_sum.dual / size));
        shift = 2 * (turn.w() * e.vec() - e.w() * turn.vec() + turn.vec().cross(e.vec()));
    }

  private:
    Eigen::Vector4d m_first;
    DualMotion m_sum;
};

}  // namespace zevo::sim
