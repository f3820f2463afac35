//! Wrong results are noticed and replaced.

use inky_combine::check::checked;
use inky_combine::*;
use kurbo::Circle;
use kurbo::{BezPath, Shape};

#[test]
fn a_wrong_result_is_replaced() {
    let disc = |x: f64| Circle::new((x, 0.0), 10.0).to_path(1e-6);
    let (a, b) = (disc(0.0), disc(8.0));
    let both = |a: i32, b: i32| a != 0 && b != 0;
    let wrong = checked(a.clone(), &a, Some(&b), both);
    let right = join_pair(&a, &b, Rule::Intersection);
    assert!((area(&wrong) - area(&right)).abs() < 1e-3 * area(&right), "{} {}", area(&wrong), area(&right));
    assert_eq!(checked(right.clone(), &a, Some(&b), both), right);
    let even_odd = checked(BezPath::new(), &a, None, |w, _| w % 2 != 0);
    assert!((area(&even_odd) - area(&a)).abs() < 1e-3 * area(&a));
}
