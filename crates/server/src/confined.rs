//! Files of strangers are read in a process of their own: it may take so much memory and time and no more, and hands back plain data. A photo is
//! decoded there to see whether it can be; only then the server decodes it, too.
//!
//! The process is this program, started as `inky read`. What is asked goes to its input, the answer comes from its output; each is a length (four
//! bytes, big-endian), JSON of that length, and bytes.

use crate::bundled::bundled_fonts;
use inky_core::outline::{FontCollection, ImportedDrawing, check_letters, read_drawing, read_font};
use inky_core::photo::read_photo;
use inky_core::sheet::{FontId, limits};
use inky_render::sheet_inside;
use serde::{Deserialize, Serialize};
use std::io::{Read, Write};
use std::process::Stdio;
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::process::Command;

/// Bytes of address space of a reading process.
const MEMORY: u64 = 2 << 30;
/// What people read of a PDF that was not made here, or without its sheet.
const NO_SHEET_INSIDE: &str = "There is no sheet in this PDF: it was delivered without one, or by another program.";
/// Seconds of computing time.
const SECONDS: u64 = 20;
/// Until then it has to have ended, on a machine that does other things as well.
const PATIENCE: Duration = Duration::from_secs(90);
/// Bytes of an answer.
const ANSWER: u64 = 512 << 20;

/// A font that a drawing may be set in, beside the application's own ones.
#[derive(Serialize, Deserialize)]
struct FontPart {
    id: FontId,
    name: String,
    bytes: usize,
}

#[derive(Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Asked {
    /// The file comes after the fonts.
    Drawing {
        name: String,
        fonts: Vec<FontPart>,
    },
    Font {
        id: FontId,
        name: String,
    },
    Photo,
    Pdf,
}

#[derive(Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Answer {
    Drawing(Box<ImportedDrawing>),
    /// The font's name; its outlines' file comes after it.
    Font(String),
    /// It can be decoded.
    Photo,
    /// The sheet file that is in a PDF comes after it.
    Sheet,
    Refused(String),
}

/// Why a file was not read.
#[derive(Debug, thiserror::Error)]
pub enum ConfinedError {
    /// What the reader says of the file.
    #[error("{0}")]
    Refused(String),
    #[error(
        "“{0}” takes more than two gigabytes of memory, or more than 20 seconds, to be read. Simplify it and bring it in again."
    )]
    TooMuch(String),
    #[error("no process could be started to read a file: {0}")]
    NotStarted(#[from] std::io::Error),
    #[error("an answer about a file cannot be read: {0}")]
    Garbled(#[from] serde_json::Error),
}

/// Reads an SVG drawing; `own` are fonts that people brought in.
///
/// # Errors
/// A sentence about the file.
pub(crate) async fn drawing(
    name: &str,
    file: &[u8],
    own: &[(FontId, String, &[u8])],
) -> Result<ImportedDrawing, ConfinedError> {
    let part = |(id, name, bytes): &(FontId, String, &[u8])| FontPart {
        id: id.clone(),
        name: name.clone(),
        bytes: bytes.len(),
    };
    let asked = Asked::Drawing { name: name.to_owned(), fonts: own.iter().map(part).collect() };
    let mut bytes = own.iter().flat_map(|(.., bytes)| bytes.iter().copied()).collect::<Vec<u8>>();
    bytes.extend_from_slice(file);
    match ask(name, &asked, &bytes).await?.0 {
        Answer::Drawing(drawn) => Ok(*drawn),
        Answer::Refused(sentence) => Err(ConfinedError::Refused(sentence)),
        _ => Err(ConfinedError::TooMuch(name.to_owned())),
    }
}

/// Whether a photo file can be decoded. The sentence about it where it cannot.
///
/// # Errors
/// A sentence about the file.
pub(crate) async fn photo(name: &str, file: &[u8]) -> Result<(), ConfinedError> {
    match ask(name, &Asked::Photo, file).await?.0 {
        Answer::Photo => Ok(()),
        Answer::Refused(sentence) => Err(ConfinedError::Refused(sentence)),
        _ => Err(ConfinedError::TooMuch(name.to_owned())),
    }
}

/// Whether a font file can be read, unpacked if it is packed. The sentence about it where it cannot.
///
/// # Errors
/// A sentence about the file.
pub(crate) async fn font(id: &FontId, name: &str, file: &[u8]) -> Result<(), ConfinedError> {
    let (answer, unpacked) = ask(name, &Asked::Font { id: id.clone(), name: name.to_owned() }, file).await?;
    match answer {
        Answer::Font(_) if unpacked.len() <= limits::FONT_BYTES => Ok(()),
        Answer::Refused(sentence) => Err(ConfinedError::Refused(sentence)),
        _ => Err(ConfinedError::TooMuch(name.to_owned())),
    }
}

/// The sheet file (JSON) that travels inside of a PDF.
///
/// # Errors
/// A sentence about the file.
pub(crate) async fn sheet_of_pdf(name: &str, file: &[u8]) -> Result<Vec<u8>, ConfinedError> {
    let (answer, sheet) = ask(name, &Asked::Pdf, file).await?;
    match answer {
        Answer::Sheet => Ok(sheet),
        Answer::Refused(sentence) => Err(ConfinedError::Refused(sentence)),
        _ => Err(ConfinedError::TooMuch(name.to_owned())),
    }
}

async fn ask(name: &str, asked: &Asked, bytes: &[u8]) -> Result<(Answer, Vec<u8>), ConfinedError> {
    let mut process = Command::new(std::env::current_exe()?)
        .arg("read")
        // threads reserve more memory than they use
        .env("RAYON_NUM_THREADS", "1")
        .env("MALLOC_ARENA_MAX", "1")
        .env_remove("INKY_DATABASE")
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .kill_on_drop(true)
        .spawn()?;
    let (input, output) = (process.stdin.take(), process.stdout.take());
    let head = framed(asked)?;
    let talk = async {
        let send = async {
            if let Some(mut input) = input {
                // one that ends early has said why
                let _ = input.write_all(&head).await;
                let _ = input.write_all(bytes).await;
            }
        };
        let mut said = Vec::new();
        let hear = async {
            match output {
                Some(output) => output.take(ANSWER).read_to_end(&mut said).await.map(drop),
                None => Ok(()),
            }
        };
        let ((), heard) = tokio::join!(send, hear);
        heard?;
        let ended = process.wait().await?;
        Ok::<_, std::io::Error>((said, ended.success()))
    };
    let too_much = || ConfinedError::TooMuch(name.to_owned());
    let (said, sound) = tokio::time::timeout(PATIENCE, talk).await.map_err(|_| too_much())??;
    if !sound || said.len() < 4 {
        return Err(too_much());
    }
    let (head, rest) = said.split_at(4);
    let length = u32::from_be_bytes([head[0], head[1], head[2], head[3]]) as usize;
    let (answer, bytes) = rest.split_at_checked(length).ok_or_else(too_much)?;
    Ok((serde_json::from_slice(answer)?, bytes.to_vec()))
}

fn framed(value: &impl Serialize) -> Result<Vec<u8>, serde_json::Error> {
    let json = serde_json::to_vec(value)?;
    Ok([&(json.len() as u32).to_be_bytes()[..], &json].concat())
}

/// What a reading process does: limits itself, reads what is asked from its input, and writes the answer.
///
/// # Errors
/// Input that was not written by [`ask`], or an output that nobody reads.
pub fn read_confined() -> Result<(), Box<dyn std::error::Error>> {
    limit()?;
    let mut input = Vec::new();
    std::io::stdin().lock().read_to_end(&mut input)?;
    let head = input.get(..4).ok_or("no input")?;
    let length = u32::from_be_bytes([head[0], head[1], head[2], head[3]]) as usize;
    let (asked, bytes) = input[4..].split_at_checked(length).ok_or("half an input")?;
    let (answer, unpacked) = answer(serde_json::from_slice(asked)?, bytes)?;
    let mut output = std::io::stdout().lock();
    output.write_all(&framed(&answer)?)?;
    output.write_all(&unpacked)?;
    Ok(output.flush()?)
}

fn answer(asked: Asked, bytes: &[u8]) -> Result<(Answer, Vec<u8>), Box<dyn std::error::Error>> {
    match asked {
        Asked::Drawing { name, fonts } => {
            let (mut all, mut rest): (FontCollection, &[u8]) = (bundled_fonts()?, bytes);
            for font in fonts {
                let (own, after) = rest.split_at_checked(font.bytes).ok_or("half a font")?;
                rest = after;
                if let Ok(face) = read_font(font.id, &font.name, own) {
                    all.add(face);
                }
            }
            let drawn = read_drawing(&name, rest, &all);
            Ok((drawn.map_or_else(|e| Answer::Refused(e.to_string()), |d| Answer::Drawing(Box::new(d))), Vec::new()))
        }
        Asked::Font { id, name } => Ok(match read_font(id, &name, bytes).and_then(|f| check_letters(&f).map(|()| f)) {
            Ok(face) => (Answer::Font(face.name.clone()), face.data.to_vec()),
            Err(error) => (Answer::Refused(error.to_string()), Vec::new()),
        }),
        Asked::Photo => {
            let read = read_photo(bytes);
            Ok((read.map_or_else(|error| Answer::Refused(error.to_string()), |_| Answer::Photo), Vec::new()))
        }
        Asked::Pdf => Ok(match sheet_inside(bytes, limits::SHEET_FILE_BYTES) {
            Ok(Some(sheet)) => (Answer::Sheet, sheet),
            Ok(None) => (Answer::Refused(NO_SHEET_INSIDE.into()), Vec::new()),
            Err(error) => (Answer::Refused(error.to_string()), Vec::new()),
        }),
    }
}

/// No more memory and computing time than a file may take; no files are written, no memory is dumped.
#[cfg(target_os = "linux")]
fn limit() -> std::io::Result<()> {
    use rustix::process::{Resource, Rlimit, setrlimit};
    for (what, most) in [(Resource::As, MEMORY), (Resource::Cpu, SECONDS), (Resource::Fsize, 0), (Resource::Core, 0)] {
        setrlimit(what, Rlimit { current: Some(most), maximum: Some(most) })?;
    }
    Ok(())
}

#[cfg(not(target_os = "linux"))]
fn limit() -> std::io::Result<()> {
    Ok(())
}
