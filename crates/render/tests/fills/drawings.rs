//! Imported drawings as fills, pixel by pixel: their own colours, single parts, repeated, pulled.

use image::RgbImage;
use inky_core::cutout::Unwatched;
use inky_core::edit::{Edit, Fit, Refusal, apply};
use inky_core::library::LoadedLibrary;
use inky_core::outline::{FontCollection, read_drawing};
use inky_core::sheet::*;
use inky_render::{Originals, Plan, pixels};
use std::sync::Arc;

/// 96 pixels are an inch: the page is 25.4 mm wide and high.
const FLAG: &str = r##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 96 96" width="96" height="96">
  <defs>
    <linearGradient id="dusk" x1="0" x2="1"><stop offset="0" stop-color="#000000"/><stop offset="1" stop-color="#ffffff"/></linearGradient>
    <clipPath id="half"><rect x="48" y="0" width="48" height="24"/></clipPath>
  </defs>
  <g id="cloth"><title>Cloth</title>
    <rect id="left" width="48" height="96" fill="#ff0000"/>
    <g transform="translate(48 0)" opacity="0.5"><rect width="24" height="96" fill="#0000ff"/><rect x="24" width="24" height="96" fill="#0000ff"/></g>
  </g>
  <g clip-path="url(#half)"><rect width="96" height="96" fill="url(#dusk)"/></g>
  <path id="bar" d="M0 84H96" stroke="#00ff00" stroke-width="12" fill="none"/>
</svg>"##;

struct Poster {
    sheet: Sheet,
    library: LoadedLibrary,
    piece: PieceId,
    fill: FillId,
}

/// A box from (20, 20) to (80, 80) mm on a sheet of 100 mm, a pixel for a millimetre, with the flag over all of it.
fn poster() -> Poster {
    let drawn = read_drawing("flag", FLAG.as_bytes(), &FontCollection::default()).unwrap();
    let library = LoadedLibrary { drawings: [("flag".into(), Arc::new(drawn))].into(), ..LoadedLibrary::default() };
    let shape = BasicShape { width: 60.0, height: 60.0, figure: Figure::Box { corners: [0.0; 4] } };
    let form = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(shape));
    let (piece, fill) = (PieceId::fresh(), FillId::fresh());
    let mut made = Poster { sheet: Sheet::new("Box", 100.0, 100.0, Unit::Mm, 25.4), library, piece, fill };
    made.edit(Edit::AddWindow { piece, form, fill: FillId::fresh() });
    // exactly as large as the box: 60 mm
    let paint =
        FillPaint::Drawing(DrawingFill { drawing: "flag".into(), placement: place(60.0 / 25.4), looks: Vec::new() });
    made.edit(Edit::AddFill { piece, fill: Fill::new(fill, paint) });
    made
}

fn place(scale: f64) -> Placement {
    Placement { x: 50.0, y: 50.0, scale, turn: 0.0, mirrored: false, slant: 0.0, pull: None }
}

impl Poster {
    fn edit(&mut self, edit: Edit) {
        self.sheet = apply(&self.sheet, &edit, &self.library).unwrap();
    }

    fn paint(&mut self, paint: FillPaint) -> Result<(), Refusal> {
        let fill = Fill::new(self.fill, paint);
        self.sheet = apply(&self.sheet, &Edit::SetFill { piece: self.piece, fill }, &self.library)?;
        Ok(())
    }

    fn drawn(&mut self, placement: Placement, looks: Vec<PartLook>) -> RgbImage {
        self.paint(FillPaint::Drawing(DrawingFill { drawing: "flag".into(), placement, looks })).unwrap();
        self.picture()
    }

    fn picture(&self) -> RgbImage {
        let plan = Plan::of_sheet(&self.sheet, &self.library, &Originals::default(), 25.4, 0.0).unwrap();
        pixels(&plan, &Unwatched).unwrap()
    }

    /// The number of the part that the file calls so.
    fn part(&self, name: &str) -> u32 {
        let picture = &self.library.drawings[&DrawingId::from("flag")].picture;
        picture.parts.iter().position(|p| p.name == name).unwrap() as u32
    }
}

fn is(picture: &RgbImage, x: u32, y: u32, known: [u8; 3]) -> bool {
    let shown = picture.get_pixel(x, y).0;
    let same = shown.iter().zip(known).all(|(p, q)| p.abs_diff(q) <= 3);
    if !same {
        println!("{shown:?} at {x}, {y} for {known:?}");
    }
    same
}

const RED: [u8; 3] = [255, 0, 0];
const WHITE: [u8; 3] = [255; 3];
/// The ink of the opening through half of the blue.
const BLUE: [u8; 3] = [10, 14, 154];
const GREEN: [u8; 3] = [0, 255, 0];

#[test]
fn a_drawing_keeps_its_colours_groups_and_clips() {
    let p = poster();
    let picture = p.picture();
    assert!(is(&picture, 30, 50, RED) && is(&picture, 60, 50, BLUE), "fills, the opacity of a group");
    // two blue halves meet in one group without a seam
    assert!(is(&picture, 65, 55, BLUE));
    assert!(is(&picture, 50, 72, GREEN), "a stroke");
    // the gradient runs over the whole of its rectangle, and only the upper right of it is left
    let grey = picture.get_pixel(65, 30).0;
    assert!(grey[0].abs_diff(192) < 6 && grey[0] == grey[1], "{grey:?}");
    assert!(is(&picture, 30, 25, RED), "clipped");
    assert!(is(&picture, 10, 50, WHITE), "nothing outside of the opening");
    // every part is told: the whole, a named group with what it holds, a clipped gradient, the stroke by its own name
    let names: Vec<&str> =
        p.library.drawings[&DrawingId::from("flag")].picture.parts.iter().map(|part| part.name.as_str()).collect();
    assert_eq!(names, ["", "Cloth", "left", "", "", "", "", "bar"]);
}

#[test]
fn parts_are_switched_off_and_painted_anew() {
    let mut p = poster();
    let (cloth, left, bar) = (p.part("Cloth"), p.part("left"), p.part("bar"));
    let look = |part, off, paint| PartLook { part, off, out: false, paint };
    let yellow = Paint::colour("#ffee00".parse().unwrap());
    let ink = [0x14, 0x1b, 0x34];
    let without = p.drawn(place(60.0 / 25.4), vec![look(cloth, true, None)]);
    assert!(is(&without, 30, 50, ink) && is(&without, 60, 50, ink) && is(&without, 50, 72, GREEN));
    // the inner look wins, and what the group does to what it holds stays
    let looks = vec![
        look(cloth, false, Some(yellow.clone())),
        look(left, false, Some(Paint::colour("#00ffff".parse().unwrap()))),
        look(bar, true, None),
    ];
    let anew = p.drawn(place(60.0 / 25.4), looks);
    assert!(is(&anew, 30, 50, [0, 255, 255]) && is(&anew, 60, 50, [138, 133, 26]) && is(&anew, 50, 72, [138, 133, 26]));
    // the whole in one ink, which it follows
    let ink = Ink {
        spot: false,
        id: InkId::fresh(),
        name: "Tide".into(),
        mix: Mix::Colour { colour: "#336699".parse().unwrap() },
    };
    p.edit(Edit::SetInk { ink: ink.clone() });
    let inked = p.drawn(place(60.0 / 25.4), vec![look(0, false, Some(Paint::Ink { ink: ink.id, vector: None }))]);
    assert!(is(&inked, 30, 50, [0x33, 0x66, 0x99]));
    p.edit(Edit::RemoveInk { ink: ink.id });
    assert!(is(&p.picture(), 30, 50, [0x33, 0x66, 0x99]), "the colour stays when the ink goes");
    let twice = DrawingFill {
        drawing: "flag".into(),
        placement: place(1.0),
        looks: vec![look(bar, true, None), look(bar, false, None)],
    };
    assert_eq!(p.paint(FillPaint::Drawing(twice)), Err(Refusal::Looks));
    let strange = DrawingFill { drawing: "nowhere".into(), placement: place(1.0), looks: Vec::new() };
    assert!(p.paint(FillPaint::Drawing(strange)).unwrap_err().to_string().contains("drawing is not here"));
}

#[test]
fn drawings_are_placed_pulled_and_repeated_as_photos_are() {
    let mut p = poster();
    let scale = 60.0 / 25.4;
    let mirrored = p.drawn(Placement { mirrored: true, ..place(scale) }, Vec::new());
    assert!(is(&mirrored, 70, 50, RED) && is(&mirrored, 40, 50, BLUE));
    let turned = p.drawn(Placement { turn: 90.0, ..place(scale) }, Vec::new());
    assert!(is(&turned, 50, 30, RED) && is(&turned, 50, 60, BLUE));
    // the upper right corner pulled to the middle of the upper side: what was above it on the right is bare
    let pull = [[0.0, 0.0], [-0.5, 0.0], [0.0, 0.0], [0.0, 0.0]];
    let pulled = p.drawn(Placement { pull: Some(pull), ..place(scale) }, Vec::new());
    assert!(is(&pulled, 75, 25, [0x14, 0x1b, 0x34]) && is(&pulled, 22, 60, RED));
    p.edit(Edit::FitPhoto { piece: p.piece, fill: p.fill, fit: Fit::Contain });
    assert!(is(&p.picture(), 21, 50, RED), "fitted to the opening");

    let tile = TileFill {
        motif: Motif::Drawing("flag".into()),
        placement: place(10.0 / 25.4),
        step: [2.0, 2.0],
        offset: 0.0,
        tone: Tone::default(),
    };
    p.paint(FillPaint::Tile(tile)).unwrap();
    let picture = p.picture();
    for (x, y) in [(47, 50), (67, 50), (27, 70)] {
        assert!(is(&picture, x, y, RED), "a copy");
        assert!(is(&picture, x + 12, y, [0x14, 0x1b, 0x34]), "a gap");
    }
    // in a file of another name it is the same
    let named = p.sheet.drawings.remove(&"flag".into()).unwrap();
    p.sheet.drawings.insert("hash".into(), named);
    p.sheet.rename_drawing(&"flag".into(), &"hash".into());
    inky_core::check::check_sheet(&p.sheet).unwrap();
}

#[test]
fn parts_that_are_let_out_pass_over_the_edge_and_its_rim() {
    let mut p = poster();
    // 80 mm large, so that the bar lies across the lower edge
    let bar = PartLook { part: p.part("bar"), off: false, out: true, paint: None };
    let placement = place(80.0 / 25.4);
    let without = p.drawn(placement, Vec::new());
    assert!(is(&without, 50, 83, WHITE) && is(&without, 50, 78, GREEN));
    let out = p.drawn(placement, vec![bar.clone()]);
    assert!(is(&out, 15, 78, GREEN) && is(&out, 85, 83, GREEN), "let out to both sides and below");
    assert!(is(&out, 15, 50, WHITE) && is(&out, 50, 15, WHITE), "the cloth stays in");
    for y in 76..84 {
        assert!(is(&out, 50, y, GREEN), "no seam along the old edge");
    }
    let rim = |over| Rim {
        width: 2.0,
        side: LineSide::Centre,
        paint: Paint::colour("#102040".parse().unwrap()),
        dashes: Vec::new(),
        round: false,
        over,
        off: false,
    };
    p.edit(Edit::SetFinish { piece: p.piece, finish: Finish { rims: vec![rim(false)].into(), ..Finish::default() } });
    let beneath = p.picture();
    assert!(is(&beneath, 50, 80, GREEN) && is(&beneath, 50, 19, [0x10, 0x20, 0x40]), "over the rim");
    // where it crosses the lower edge it runs under: a place on its page, so that it does so wherever the page is moved
    let anchor = Anchor { fill: p.fill, subject: 0, x: 12.7, y: 22.2 };
    let cross = |under, was: &[Anchor]| Edit::Cross { piece: p.piece, anchor, under, was: was.to_vec() };
    let (under, over) = (cross(true, &[]), cross(false, &[anchor]));
    p.edit(under);
    let crossed = p.picture();
    assert!(is(&crossed, 50, 80, [0x10, 0x20, 0x40]) && is(&crossed, 50, 83, GREEN), "under the rim");
    let slid = Placement { x: placement.x + 3.0, ..placement };
    assert!(is(&p.drawn(slid, vec![bar.clone()]), 50, 80, [0x10, 0x20, 0x40]), "still under it");
    p.edit(over);
    assert!(is(&p.drawn(placement, vec![bar.clone()]), 50, 80, GREEN), "over the rim again");
    p.edit(Edit::SetFinish { piece: p.piece, finish: Finish { rims: vec![rim(true)].into(), ..Finish::default() } });
    assert!(is(&p.picture(), 50, 80, [0x10, 0x20, 0x40]), "beneath the rim");
    // switched off, it is not let out either
    p.edit(Edit::SetFinish { piece: p.piece, finish: Finish::default() });
    assert!(is(&p.drawn(placement, vec![PartLook { off: true, ..bar }]), 50, 83, WHITE));
}

#[test]
fn groups_that_are_out_give_way_to_their_pieces() {
    let mut p = poster();
    let outs = |p: &Poster| -> Vec<u32> {
        let FillPaint::Drawing(d) = &p.sheet.pieces[0].window().unwrap().fill(p.fill).unwrap().paint else {
            panic!("no drawing")
        };
        d.looks.iter().filter(|l| l.out).map(|l| l.part).collect()
    };
    let put = |p: &mut Poster, part: u32, out: bool| {
        p.edit(Edit::LetPiecesOut { piece: p.piece, fill: p.fill, parts: vec![part], out });
        outs(p)
    };
    let (cloth, left, bar) = (p.part("Cloth"), p.part("left"), p.part("bar"));
    assert_eq!(put(&mut p, cloth, true), [2, 4, 5], "its three pieces");
    assert_eq!(put(&mut p, left, false), [4, 5]);
    assert_eq!(put(&mut p, bar, true), [4, 5, bar]);
    assert_eq!(put(&mut p, 0, true), [0], "all of it is the whole");
    assert_eq!(put(&mut p, bar, false).len(), 4, "the whole gives way to its pieces");
    let none: [u32; 0] = [];
    assert_eq!(put(&mut p, 0, false), none);
    let names = Edit::LetPiecesOut { piece: p.piece, fill: p.fill, parts: vec![bar], out: true };
    assert_eq!(names.name(&p.sheet), "let out");
}
