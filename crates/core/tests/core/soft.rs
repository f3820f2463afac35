//! Edges that fade.

use inky_core::library::Books;
use inky_core::scene::soft_mask;
use inky_core::sheet::*;
use inky_core::sheet::{BasicShape, Figure, FormId, Pose, Stroke};

fn opening(hardness: f64) -> Opening {
    let stroke = |erase, x| Stroke { points: vec![[x, 0.0, 1.0], [x + 20.0, 0.0, 1.0]], size: 10.0, hardness, erase };
    let brush = Brush { strokes: vec![stroke(false, 0.0), stroke(true, 15.0)] };
    let disc = BasicShape { width: 8.0, height: 8.0, figure: Figure::Ellipse };
    let cut = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(disc));
    let forms = vec![
        Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Brush(brush)),
        Form { join: Join::CutAway, ..cut },
    ];
    Opening { forms, ..Opening::default() }
}

#[test]
fn only_fading_edges_need_a_mask() {
    let piece = PieceId::fresh();
    assert!(soft_mask(&opening(1.0), piece, &Books::default()).is_none());
    let mask = soft_mask(&opening(0.4), piece, &Books::default()).unwrap();
    // the eraser and the form that is cut away
    assert_eq!(mask.definitions.matches("<mask").count(), 2, "{}", mask.definitions);
    assert_eq!(mask.definitions.matches("feGaussianBlur").count(), 2);
    assert!(mask.bounds.x0 < 45.5 && mask.bounds.contains(kurbo::Point::new(50.0, 50.0)));
}

#[test]
fn fading_areas_act_by_any_join() {
    let piece = PieceId::fresh();
    let mut opening = opening(0.4);
    opening.forms.swap(0, 1);
    for (join, masks) in [(Join::Add, 1), (Join::CutAway, 2), (Join::KeepShared, 2), (Join::DropShared, 3)] {
        opening.forms[1].join = join;
        let mask = soft_mask(&opening, piece, &Books::default()).unwrap();
        assert_eq!(mask.definitions.matches("<mask").count(), masks, "{join:?}");
        let wide = mask.bounds.width();
        assert!(if join == Join::CutAway { (wide - 8.0).abs() < 0.01 } else { wide > 30.0 }, "{join:?}: {wide}");
    }
    // a form that is switched off takes no part
    opening.forms[1].off = true;
    assert!(soft_mask(&opening, piece, &Books::default()).is_none());
}
