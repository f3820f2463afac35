//! The display faces that ship with Inky Window, built into the program.
//!
//! Files and licence texts (SIL Open Font License 1.1) are in `demo/fonts`.

/// A font file with what people are told of it.
#[derive(Debug, Clone, Copy)]
pub struct Bundled {
    /// Short name, used in sheets.
    pub id: &'static str,
    pub name: &'static str,
    /// A few words on how it looks.
    pub manner: &'static str,
    /// The TTF file.
    pub data: &'static [u8],
}

macro_rules! bundled {
    ($($id:literal, $name:literal, $manner:literal;)*) => {
        /// Every bundled face, in the order in which they are offered.
        pub const FACES: &[Bundled] = &[$(Bundled {
            id: $id,
            name: $name,
            manner: $manner,
            data: include_bytes!(concat!("../../../demo/fonts/", $id, ".ttf")),
        }),*];
    };
}

bundled! {
    "anton", "Anton", "narrow and tall";
    "archivo-black", "Archivo Black", "plain and heavy";
    "dela-gothic-one", "Dela Gothic One", "wide and very heavy";
    "bungee", "Bungee", "wide, made for signs";
    "harbour-slab", "Harbour Slab", "heavy slab";
    "tide-face", "Tide Face", "fat face with hairlines";
    "buoy-round", "Buoy Round", "round and friendly";
    "barrel-fat", "Barrel Fat", "bulging";
    "shrikhand", "Shrikhand", "leaning, brush-like";
    "netloft-script", "Netloft Script", "joined script";
}
