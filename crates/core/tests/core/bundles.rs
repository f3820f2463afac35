//! Pieces that are handled as one.

use super::edits::{Word, word};
use inky_core::check::check_sheet;
use inky_core::combine::bounds;
use inky_core::edit::*;
use inky_core::merge::merge;
use inky_core::outline::{bundle_member_outline, bundle_outline, sheet_panes, shown_outline};
use inky_core::piece_tree::Layer;
use inky_core::sheet::*;
use kurbo::Affine;
use proptest::prelude::*;

/// A sheet with so many words, all in one place.
fn words(count: usize) -> (Word, Vec<PieceId>) {
    let mut w = word();
    let mut all = vec![w.piece];
    for _ in 1..count {
        let copy = PieceId::fresh();
        w.edit(Edit::CopyPiece { piece: all[all.len() - 1], copy });
        all.push(copy);
    }
    (w, all)
}

fn bundled(pieces: &[PieceId], bundles: &[BundleId], within: Option<BundleId>) -> (BundleId, Edit) {
    let bundle = BundleId::fresh();
    (bundle, Edit::Bundle { bundle, within, pieces: pieces.to_vec(), bundles: bundles.to_vec() })
}

fn order(sheet: &Sheet) -> Vec<PieceId> {
    sheet.pieces.iter().map(|p| p.id).collect()
}

#[test]
fn the_pieces_of_a_bundle_lie_where_the_frontmost_one_does() {
    let (mut w, p) = words(5);
    let (low, make) = bundled(&[p[0], p[2]], &[], None);
    w.edit(make);
    assert_eq!(order(&w.sheet), [p[1], p[0], p[2], p[3], p[4]]);
    // a bundle of that one and another piece
    let (high, make) = bundled(&[p[4]], &[low], None);
    w.edit(make);
    assert_eq!(order(&w.sheet), [p[1], p[3], p[0], p[2], p[4]]);
    assert_eq!(w.sheet.bundles_around(Some(low)), [low, high]);
    check_sheet(&w.sheet).unwrap();
    // dissolved, all stay where they are
    let before = w.sheet.clone();
    w.edit(Edit::Dissolve { bundle: high });
    assert_eq!(order(&w.sheet), order(&before));
    w.edit(Edit::Dissolve { bundle: low });
    assert_eq!(order(&w.sheet), order(&before));
    assert!(w.sheet.bundles.is_empty() && w.sheet.pieces.iter().all(|p| p.bundle.is_none()));
    let bare = |sheet: &Sheet| sheet.pieces.iter().map(|p| p.kind.clone()).collect::<Vec<_>>();
    assert_eq!(bare(&w.sheet), bare(&before), "nothing else is touched");
}

#[test]
fn bundles_that_cannot_be_say_why() {
    let (mut w, p) = words(3);
    let (one, make) = bundled(&p[..2], &[], None);
    w.edit(make.clone());
    assert!(matches!(w.try_edit(make), Err(Refusal::Inconsistent(_))));
    let gone = BundleId::fresh();
    assert_eq!(w.try_edit(Edit::Dissolve { bundle: gone }), Err(Refusal::NoBundle));
    assert_eq!(w.try_edit(bundled(&p, &[], Some(gone)).1), Err(Refusal::NoBundle));
    assert_eq!(w.try_edit(bundled(&[PieceId::fresh()], &[], None).1), Err(Refusal::NoPiece));
    // within what it is to hold
    assert_eq!(w.try_edit(bundled(&[], &[one], Some(one)).1), Err(Refusal::BundleInItself));
    let mut inner = one;
    for _ in 1..limits::BUNDLES_DEEP {
        let (outer, make) = bundled(&[], &[inner], None);
        w.edit(make);
        inner = outer;
    }
    assert_eq!(w.try_edit(bundled(&[], &[inner], None).1), Err(Refusal::BundlesTooDeep));
    assert_eq!(w.try_edit(Edit::NameBundle { bundle: one, name: "x".repeat(999) }), Err(Refusal::LongName));
    // a bundle whose last piece goes is gone as well
    w.edit(Edit::RemovePiece { piece: p[0] });
    w.edit(Edit::RemovePiece { piece: p[1] });
    assert!(w.sheet.bundles.is_empty());
}

#[test]
fn pieces_and_bundles_are_put_in_front_of_a_piece_and_into_a_bundle() {
    let (mut w, p) = words(5);
    let (row, make) = bundled(&p[3..], &[], None);
    w.edit(make);
    let place = |pieces: &[PieceId], bundles: &[BundleId], into, over| Edit::Place {
        pieces: pieces.to_vec(),
        bundles: bundles.to_vec(),
        into,
        over,
    };
    // between the two of the bundle, and out again behind all
    w.edit(place(&p[..1], &[], Some(row), Some(p[3])));
    assert_eq!(order(&w.sheet), [p[1], p[2], p[3], p[0], p[4]]);
    assert_eq!(w.sheet.piece(p[0]).unwrap().bundle, Some(row));
    w.edit(place(&p[..1], &[], None, None));
    assert_eq!(order(&w.sheet), p);
    // a bundle goes with all that is in it
    w.edit(place(&[], &[row], None, Some(p[0])));
    assert_eq!(order(&w.sheet), [p[0], p[3], p[4], p[1], p[2]]);
    assert_eq!(w.try_edit(place(&[], &[row], Some(row), Some(p[0]))), Err(Refusal::BundleInItself));
    assert_eq!(w.try_edit(place(&p[..1], &[], None, Some(p[0]))), Err(Refusal::NoPiece));
}

#[test]
fn bundles_are_copied_and_pasted_with_their_pieces() {
    let (mut w, p) = words(3);
    let (inner, make) = bundled(&p[..2], &[], None);
    w.edit(make);
    w.edit(Edit::NameBundle { bundle: inner, name: " Panels ".into() });
    let (_, make) = bundled(&p[2..], &[inner], None);
    w.edit(make);
    let copies = p.iter().map(|id| (*id, PieceId::fresh())).collect();
    w.edit(Edit::Paste { from: Box::new(w.sheet.clone()), copies, by: [0.0, 0.0] });
    assert_eq!((w.sheet.pieces.len(), w.sheet.bundles.len()), (6, 4));
    let depth = |at: usize| w.sheet.bundles_around(w.sheet.pieces[at].bundle).len();
    assert_eq!([3, 4, 5].map(depth), [0, 1, 2].map(depth));
    assert_eq!(w.sheet.bundles.iter().filter(|b| b.name.as_deref() == Some("Panels")).count(), 2);
    check_sheet(&w.sheet).unwrap();
}

#[test]
fn what_one_side_bundles_and_the_other_dissolves_is_put_together() {
    let (mut w, p) = words(4);
    let (outer, make) = bundled(&p[..3], &[], None);
    w.edit(make);
    let base = w.sheet.clone();
    let mine = w.try_edit(bundled(&p[..2], &[], Some(outer)).1).unwrap();
    let theirs = w.try_edit(Edit::Dissolve { bundle: outer }).unwrap();
    // both say of the same pieces which bundle they are in: one of them is told
    assert!(merge(&base, &mine, &theirs).is_err());
    let theirs = w.try_edit(Edit::NameBundle { bundle: outer, name: "Row".into() }).unwrap();
    let both = merge(&base, &mine, &theirs).unwrap();
    assert_eq!((both.bundles.len(), both.bundle(outer).unwrap().name.as_deref()), (2, Some("Row")));
}

proptest! {
    #[test]
    fn whatever_is_bundled_lies_together_and_is_a_tree(
        steps in prop::collection::vec((prop::collection::vec(any::<prop::sample::Index>(), 1..4), any::<prop::sample::Index>(), 0..4), 1..12),
    ) {
        let (mut w, p) = words(6);
        for (pieces, other, what) in steps {
            let chosen: Vec<PieceId> = pieces.iter().map(|i| *i.get(&p)).collect();
            let bundles: Vec<BundleId> = w.sheet.bundles.iter().map(|b| b.id).collect();
            let any = (!bundles.is_empty()).then(|| *other.get(&bundles));
            let edit = match what {
                0 => Edit::OrderPiece { piece: chosen[0], to: other.index(6) },
                1 => bundled(&chosen, any.as_slice(), None).1,
                2 => bundled(&chosen, &[], any).1,
                _ => Edit::Dissolve { bundle: any.unwrap_or(BundleId::fresh()) },
            };
            if let Ok(next) = w.try_edit(edit) {
                w.sheet = next;
            }
            check_sheet(&w.sheet).unwrap();
            for bundle in &w.sheet.bundles {
                let within = |p: &&Piece| w.sheet.bundles_around(p.bundle).contains(&bundle.id);
                let count = w.sheet.pieces.iter().filter(within).count();
                let first = w.sheet.pieces.iter().position(|p| within(&p)).unwrap();
                prop_assert!(w.sheet.pieces[first..first + count].iter().all(|p| within(&p)), "they lie apart");
            }
        }
    }
}

#[test]
fn bundles_with_a_finish_are_layers_and_the_rest_stands_for_itself() {
    let (mut w, p) = words(5);
    let (inner, make) = bundled(&p[1..3], &[], None);
    w.edit(make);
    let (outer, make) = bundled(&[p[3]], &[inner], None);
    w.edit(make);
    let piece = |k: usize| Layer::Piece(p[k]);
    assert_eq!(w.sheet.layers(), [0, 1, 2, 3, 4].map(piece), "a bundle by itself changes nothing");
    let faint = BundleFinish { strength: 0.5, ..BundleFinish::default() };
    w.edit(Edit::SetBundleFinish { bundle: inner, finish: faint.clone() });
    let whole = Layer::Bundle(inner, vec![piece(1), piece(2)]);
    assert_eq!(w.sheet.layers(), [piece(0), whole.clone(), piece(3), piece(4)]);
    w.edit(Edit::SetBundleFinish { bundle: outer, finish: faint });
    assert_eq!(w.sheet.layers(), [piece(0), Layer::Bundle(outer, vec![whole, piece(3)]), piece(4)]);
    w.edit(Edit::HidePiece { piece: p[3], hidden: true });
    assert_eq!(w.sheet.layers().len(), 3);
    assert_eq!(serde_json::from_str::<Sheet>(&serde_json::to_string(&w.sheet).unwrap()).unwrap(), w.sheet);
}

#[test]
fn a_finish_that_cannot_be_says_why() {
    let (mut w, p) = words(2);
    let (bundle, make) = bundled(&p, &[], None);
    w.edit(make);
    let shadow = |place, strength| Shadow {
        place,
        tint: Tint::Colour(Colour::INK),
        blend: Blend::Multiply,
        strength,
        angle: 0.0,
        distance: 3.0,
        spread: 0.0,
        size: 2.0,
        off: false,
    };
    let finish = |shadow| BundleFinish { shadows: vec![shadow].into(), ..BundleFinish::default() };
    let set = |bundle, finish| Edit::SetBundleFinish { bundle, finish };
    let inside = set(bundle, finish(shadow(ShadowPlace::Inside, 0.5)));
    assert_eq!(w.try_edit(inside), Err(Refusal::BundleShadow));
    assert!(w.try_edit(set(bundle, finish(shadow(ShadowPlace::Behind, f64::NAN)))).is_err());
    assert!(w.try_edit(set(bundle, BundleFinish { strength: 2.0, ..BundleFinish::default() })).is_err());
    let sound = finish(shadow(ShadowPlace::Behind, 0.5));
    assert_eq!(w.try_edit(set(BundleId::fresh(), sound.clone())), Err(Refusal::NoBundle));
    // an ink that is removed leaves its colour
    let ink =
        Ink { spot: false, id: InkId::fresh(), name: "Moss".into(), mix: Mix::Colour { colour: Colour([1, 2, 3]) } };
    w.edit(Edit::SetInk { ink: ink.clone() });
    let mut inked = sound;
    inked.shadows.iter_mut().for_each(|s| s.tint = Tint::Ink(ink.id));
    w.edit(set(bundle, inked));
    w.edit(Edit::RemoveInk { ink: ink.id });
    assert_eq!(w.sheet.bundles[0].finish.shadows[0].tint, Tint::Colour(Colour([1, 2, 3])));
}

fn split_at(x: f64, apart: f64) -> Split {
    let line =
        SplitLine { points: vec![[x, -10.0], [x, 500.0]], course: Course::Straight, flipped: false, within: None };
    Split { lines: vec![line].into(), apart, ..Split::default() }
}

fn row_of(count: u32) -> Repeat {
    let layout = Layout::Row { count, gap: 2.0, along: [0.0, 1.0] };
    Repeat { layout, turn: 0.0, scale: 1.0, behind: false, looks: Members::default() }
}

#[test]
fn panes_and_members_of_a_bundle_go_where_its_pieces_go() {
    let (mut w, p) = words(3);
    let (bundle, make) = bundled(&p[..2], &[], None);
    w.edit(make);
    let outline = |w: &Word| bounds(&bundle_outline(&w.sheet, bundle, &w.library));
    let whole = outline(&w);
    let middle = whole.center().x;
    w.edit(Edit::SetBundleSplit { bundle, split: split_at(middle, 10.0) });
    w.edit(Edit::SetBundleRepeat { bundle, repeat: Some(row_of(3)) });
    assert!(matches!(&w.sheet.layers()[0], Layer::Bundle(id, inside) if *id == bundle && inside.len() == 2));
    let panes = |w: &Word| {
        let own = &w.sheet.bundle(bundle).unwrap().split;
        let all = sheet_panes(&w.sheet, own, &bundle_outline(&w.sheet, bundle, &w.library));
        all.iter().map(|pane| bounds(&(pane.transform(own) * &pane.opening))).collect::<Vec<_>>()
    };
    let before = panes(&w);
    assert_eq!(before.len(), 2);
    assert!((before[0].width() + before[1].width() - whole.width()).abs() < 1e-6);
    let by = Affine::scale_about(1.5, whole.origin()).then_translate((4.0, 7.0).into());
    w.edit(Edit::Transform { pieces: p[..2].to_vec(), what: Grip::Both, by: by.as_coeffs() });
    for (was, now) in before.iter().zip(panes(&w)) {
        let was = by.transform_rect_bbox(*was);
        assert!((was.x0 - now.x0).abs() < 1e-4 && (was.x1 - now.x1).abs() < 1e-4, "{was:?} {now:?}");
    }
    // one piece alone leaves them where they are
    let lines = w.sheet.bundles[0].split.clone();
    w.edit(Edit::Transform { pieces: vec![p[0]], what: Grip::Both, by: [1.0, 0.0, 0.0, 1.0, 3.0, 0.0] });
    assert_eq!(w.sheet.bundles[0].split, lines);
    // a bundle around it has what is seen of the inner one
    let (outer, make) = bundled(&[p[2]], &[bundle], None);
    w.edit(make);
    let around = bounds(&bundle_outline(&w.sheet, outer, &w.library));
    assert!(around.height() > 3.0 * outline(&w).height());
    assert_eq!(serde_json::from_str::<Sheet>(&serde_json::to_string(&w.sheet).unwrap()).unwrap(), w.sheet);
}

#[test]
fn a_split_or_a_row_that_cannot_be_says_why() {
    let (mut w, p) = words(2);
    let (bundle, make) = bundled(&p, &[], None);
    w.edit(make);
    let split = |x| Edit::SetBundleSplit { bundle, split: split_at(x, 0.0) };
    assert_eq!(w.try_edit(split(-4000.0)), Err(Refusal::UncutWindow));
    let repeat = |count| Edit::SetBundleRepeat { bundle, repeat: Some(row_of(count)) };
    assert_eq!(w.try_edit(repeat(0)), Err(Refusal::Members));
    assert_eq!(w.try_edit(repeat(10_000)), Err(Refusal::Members));
    let look = MemberLook { member: 1, by: Affine::IDENTITY.as_coeffs(), hidden: false, word: Some("No".into()) };
    let worded = Repeat { looks: vec![look].into(), ..row_of(3) };
    assert_eq!(w.try_edit(Edit::SetBundleRepeat { bundle, repeat: Some(worded) }), Err(Refusal::BundleMember));
    let other = BundleId::fresh();
    assert_eq!(w.try_edit(Edit::SetBundleRepeat { bundle: other, repeat: None }), Err(Refusal::NoBundle));
    w.edit(repeat(3));
    w.edit(Edit::SetBundleRepeat { bundle, repeat: None });
    assert_eq!(w.sheet.layers().len(), 2);
}

#[test]
fn a_member_of_a_repeated_bundle_has_words_and_photos_of_its_own() {
    let (mut w, p) = words(2);
    w.library.photos.insert("a".into(), Photo::new("a", 300, 200));
    let (bundle, make) = bundled(&p, &[], None);
    let photo = |member| {
        let photos = vec![(FillId::fresh(), "a".into())];
        Edit::Deal { piece: p[0], from: member, photos, within_bundle: true }
    };
    let say = |member, word: Option<&str>| Edit::SetBundleWord { piece: p[1], member, word: word.map(Into::into) };
    w.edit(make);
    for early in [photo(0), say(0, Some("One"))] {
        assert_eq!(w.try_edit(early), Err(Refusal::NoMember), "it is shown once");
    }
    w.edit(Edit::SetBundleRepeat { bundle, repeat: Some(row_of(3)) });
    let common = bundle_outline(&w.sheet, bundle, &w.library);
    assert_eq!(w.try_edit(photo(3)), Err(Refusal::NoMember));
    w.edit(photo(2));
    w.edit(say(1, Some("LONGER WORDS")));
    let own = |w: &Word| p.iter().map(|p| w.sheet.own_bundle_members(w.sheet.piece(*p).unwrap())).collect::<Vec<_>>();
    assert_eq!(own(&w), [vec![2], vec![1]]);
    assert_eq!(bundle_outline(&w.sheet, bundle, &w.library), common, "the others are as they were");
    let longer = bundle_member_outline(&w.sheet, bundle, 1, &w.library).unwrap();
    assert!(bounds(&longer).width() > bounds(&common).width() + 10.0);
    assert_eq!(bundle_member_outline(&w.sheet, bundle, 2, &w.library), None);
    // a copy looks as the member does, and has nothing for members any more
    let copy = PieceId::fresh();
    w.edit(Edit::CopyPiece { piece: p[1], copy });
    w.edit(Edit::LookAsMember { pieces: vec![copy], member: 1, behind: false });
    let free = w.sheet.piece(copy).unwrap();
    assert_eq!(free.label(&w.sheet), "LONGER WORDS");
    assert!(w.sheet.own_bundle_members(free).is_empty());
    // fewer members: what belonged to those that are gone goes
    w.edit(Edit::SetBundleRepeat { bundle, repeat: Some(row_of(2)) });
    assert_eq!(own(&w), [vec![], vec![1]]);
    w.edit(say(1, None));
    assert!(own(&w).concat().is_empty());
    check_sheet(&w.sheet).unwrap();
}

#[test]
fn panes_of_a_bundle_pass_on_to_what_is_in_it() {
    let (mut w, p) = words(3);
    let aside = Edit::Transform { pieces: vec![p[1]], what: Grip::Both, by: [0.2, 0.0, 0.0, 0.2, 400.0, 0.0] };
    w.edit(aside);
    let (bundle, make) = bundled(&p[..2], &[], None);
    w.edit(make);
    let window = |w: &Word, at: usize| w.sheet.piece(p[at]).unwrap().window().unwrap().clone();
    let outline = |w: &Word, at: usize| bounds(&shown_outline(&w.sheet, &window(w, at), &w.library).unwrap().path);
    let (middle, beside) = (outline(&w, 0).center().x, outline(&w, 1));
    w.edit(Edit::SetBundleSplit { bundle, split: split_at(middle, 10.0) });
    let lone = w.sheet.clone();
    w.edit(Edit::Dissolve { bundle });
    // the first one is cut, the second one lies beside the line
    assert_eq!([0, 1].map(|at| window(&w, at).split.lines.len()), [1, 0]);
    assert_eq!(window(&w, 0).split.apart, 10.0);
    assert!(((outline(&w, 1).x0 - beside.x0).abs() - 5.0).abs() < 1e-6, "{:?} and {beside:?}", outline(&w, 1));
    // members that the line runs across have to be set free first
    w.sheet = lone;
    w.edit(Edit::SetRepeat { piece: p[0], repeat: Some(row_of(2)) });
    let before = w.sheet.clone();
    assert_eq!(w.try_edit(Edit::Dissolve { bundle }), Err(Refusal::DissolvedMembers));
    // panes of another gap have no place beside these
    w.edit(Edit::SetRepeat { piece: p[0], repeat: None });
    let level = SplitLine {
        points: vec![[-10.0, outline(&w, 0).center().y], [900.0, outline(&w, 0).center().y]],
        course: Course::Straight,
        flipped: false,
        within: None,
    };
    let own = Split { lines: vec![level].into(), gap: 1.0, ..Split::default() };
    w.edit(Edit::SetSplit { piece: p[0], split: own.clone() });
    assert_eq!(w.try_edit(Edit::Dissolve { bundle }), Err(Refusal::DissolvedPanes));
    w.edit(Edit::SetSplit { piece: p[0], split: Split { gap: 0.0, ..own } });
    w.edit(Edit::Dissolve { bundle });
    assert_eq!(window(&w, 0).split.lines.len(), 3, "one of its own, and the bundle's in both of its panes");
    assert_ne!(before, w.sheet);
}
