//! Colours and contrast.

use inky_core::sheet::Colour;
#[test]
fn new_lettering_can_be_read_on_any_sheet() {
    let black = Colour([0; 3]);
    assert!((Colour::PAPER.contrast(black) - 21.0).abs() < 1e-9 && Colour::INK.contrast(Colour::INK) == 1.0);
    for (ground, known) in [("#ffffff", Colour::INK), ("#f2c14b", Colour::INK), ("#0f3d4a", Colour::CREAM)] {
        let ground: Colour = ground.parse().unwrap();
        assert_eq!(Colour::that_stands_out_from(ground), known);
    }
    for v in 0..=255 {
        let ground = Colour([v; 3]);
        assert!(Colour::that_stands_out_from(ground).contrast(ground) > 3.0, "{ground}");
    }
}

#[test]
fn reads_what_it_writes_and_nothing_else() {
    assert_eq!("#0a0B0c".parse::<Colour>().unwrap().to_string(), "#0a0b0c");
    for wrong in ["", "#fff", "red", "#12345g", "#+12345", "\"/><script>"] {
        assert!(wrong.parse::<Colour>().is_err(), "{wrong}");
    }
}
