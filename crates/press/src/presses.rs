//! The presses that ship with the program. They are made up; their solids lie near the aims of ISO 12647-2 for such papers.

use crate::{Lab, Press};

/// All presses; the first one is meant where none is named.
pub static PRESSES: [Press; 3] = [
    Press {
        id: "coated",
        name: "Coated paper, offset",
        paper: Lab::new(95.0, 0.5, -3.0),
        solids: [
            Lab::new(55.0, -36.0, -51.0),
            Lab::new(48.0, 75.0, -5.0),
            Lab::new(89.0, -4.0, 93.0),
            Lab::new(24.0, 18.0, -46.0),
            Lab::new(50.0, -66.0, 27.0),
            Lab::new(47.0, 69.0, 47.0),
            Lab::new(23.0, 0.0, 0.0),
            Lab::new(16.0, 0.0, 0.0),
        ],
        dot_gain: [0.12, 0.12, 0.12, 0.14],
        spread: 1.6,
        ink_limit: 3.2,
        least_line: 0.06,
    },
    Press {
        id: "uncoated",
        name: "Uncoated paper, offset",
        paper: Lab::new(93.0, 1.0, -7.0),
        solids: [
            Lab::new(59.0, -23.0, -47.0),
            Lab::new(54.0, 59.0, -2.0),
            Lab::new(88.0, -4.0, 75.0),
            Lab::new(38.0, 8.0, -29.0),
            Lab::new(53.0, -42.0, 15.0),
            Lab::new(52.0, 55.0, 29.0),
            Lab::new(33.0, 0.0, 0.0),
            Lab::new(30.0, 1.0, 1.0),
        ],
        dot_gain: [0.16, 0.16, 0.16, 0.18],
        spread: 1.8,
        ink_limit: 2.8,
        least_line: 0.09,
    },
    Press {
        id: "newsprint",
        name: "Newsprint",
        paper: Lab::new(84.0, 0.0, 4.0),
        solids: [
            Lab::new(57.0, -24.0, -28.0),
            Lab::new(54.0, 46.0, -1.0),
            Lab::new(79.0, -4.0, 60.0),
            Lab::new(41.0, 7.0, -22.0),
            Lab::new(53.0, -34.0, 17.0),
            Lab::new(52.0, 41.0, 25.0),
            Lab::new(38.0, 0.0, 0.0),
            Lab::new(36.0, 1.0, 4.0),
        ],
        dot_gain: [0.2, 0.2, 0.2, 0.2],
        spread: 1.9,
        ink_limit: 2.4,
        least_line: 0.12,
    },
];

/// A press by its [`Press::id`].
pub fn press(id: &str) -> Option<&'static Press> {
    PRESSES.iter().find(|press| press.id == id)
}
