//! Poses under transforms.

use inky_core::sheet::Pose;
use kurbo::Affine;
use proptest::prelude::*;

proptest! {
    #[test]
    fn a_transformed_pose_is_the_transformed_form(
        turn in -170.0..170.0, slant in -40.0..40.0, wide in 0.2..3.0_f64, tall in 0.2..3.0, mirror in any::<bool>(),
        m in prop::array::uniform4(-2.0..2.0),
    ) {
        let pose = Pose { turn, slant, wide: if mirror { -wide } else { wide }, tall, ..Pose::at(30.0, -20.0) };
        let by = Affine::new([m[0], m[1], m[2], m[3], 5.0, 9.0]);
        prop_assume!(by.determinant().abs() > 0.05);
        let (then, now) = (by * pose.affine(), pose.transformed(by).affine());
        for (a, b) in then.as_coeffs().iter().zip(now.as_coeffs()) {
            prop_assert!((a - b).abs() < 1e-9, "{:?} and {:?}", then, now);
        }
    }
}

#[test]
fn mirroring_shows_in_the_width() {
    let mirrored = Pose::at(10.0, 5.0).transformed(Affine::scale_non_uniform(-1.0, 1.0));
    assert_eq!((mirrored.x, mirrored.wide, mirrored.tall, mirrored.turn), (-10.0, -1.0, 1.0, 0.0));
}
