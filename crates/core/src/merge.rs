//! What two hands made of the same sheet, put together.
//!
//! A three-way merge of documents, member by member: what only one side changed is taken from that side, what both changed alike is taken once, and
//! what both changed differently is a [`Conflict`]. So an edit can be kept on a newer sheet than it was made for, and a step can be taken back
//! from among later ones. Compare Mens, *A State-of-the-Art Survey on Software Merging*, IEEE TSE 28(5), 2002 (state-based structural merging).
//!
//! Documents are compared as JSON, as they are stored. Members of lists are told by their `id`; lists of nameless members (stops of a gradient, nodes, points that are let out) may grow at
//! their end on one side, lose members on both, or keep their length. Everything else is a value that one side alone can change.

use crate::check::{Refusal, check_sheet};
use crate::sheet::{PieceId, Sheet};
use serde_json::{Map, Value};

/// Members that say what kind of thing an object is: where one side changed that, its other members are not mixed with the other side's.
const KINDS: [&str; 6] = ["kind", "figure", "mix", "inks", "place", "shape"];

/// What both sides changed, each in its own way.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Conflict {
    /// The piece it lies in; None for something of the sheet itself.
    pub piece: Option<PieceId>,
    /// What of it.
    pub what: Part,
    /// One side took away what the other one changed.
    pub gone: bool,
}

/// Parts of a sheet, as people speak of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Part {
    Piece,
    Opening,
    Fills,
    Breakout,
    Finish,
    Panes,
    Repeat,
    Name,
    Order,
    Inks,
    Photos,
    Sheet,
}

/// Why two sheets are not put together.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum MergeError {
    #[error("both changed one thing")]
    Conflict(Conflict),
    /// Each side is sound by itself, and both together are not.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// A document that cannot be compared: no sheet gives one.
    #[error("a sheet cannot be compared: {0}")]
    Unreadable(String),
}

/// The sheet with what `mine` and `theirs` each changed since `base`.
///
/// # Errors
/// Something that both changed, or a sheet that would break a rule.
pub fn merge(base: &Sheet, mine: &Sheet, theirs: &Sheet) -> Result<Sheet, MergeError> {
    if base == theirs {
        return Ok(mine.clone());
    }
    if base == mine {
        return Ok(theirs.clone());
    }
    let json = |sheet: &Sheet| serde_json::to_value(sheet).map_err(|e| MergeError::Unreadable(e.to_string()));
    let merged = merged(&json(base)?, &json(mine)?, &json(theirs)?, &mut Vec::new()).map_err(MergeError::Conflict)?;
    let mut sheet: Sheet = serde_json::from_value(merged).map_err(|e| MergeError::Unreadable(e.to_string()))?;
    // one side may have dissolved what the other put something into
    sheet.tidy_bundles();
    check_sheet(&sheet)?;
    Ok(sheet)
}

/// Steps from the document down to a value: names of members, and identifiers of members of lists.
type Path = Vec<String>;

fn merged(base: &Value, mine: &Value, theirs: &Value, path: &mut Path) -> Result<Value, Conflict> {
    if mine == theirs || base == theirs {
        return Ok(mine.clone());
    }
    if base == mine {
        return Ok(theirs.clone());
    }
    match (base, mine, theirs) {
        (Value::Object(b), Value::Object(m), Value::Object(t)) if of_one_kind([b, m, t]) => {
            members(b, m, t, path).map(Value::Object)
        }
        (Value::Array(b), Value::Array(m), Value::Array(t)) => list(b, m, t, path).map(Value::Array),
        _ => Err(conflict(path, false)),
    }
}

fn of_one_kind([base, mine, theirs]: [&Map<String, Value>; 3]) -> bool {
    KINDS.iter().all(|kind| {
        // an object below is no name of a kind
        let of = |o: &Map<String, Value>| o.get(*kind).filter(|v| v.is_string()).cloned();
        of(mine) == of(theirs) && (base.is_empty() || of(base) == of(mine))
    })
}

fn members(
    base: &Map<String, Value>,
    mine: &Map<String, Value>,
    theirs: &Map<String, Value>,
    path: &mut Path,
) -> Result<Map<String, Value>, Conflict> {
    let mut result = Map::new();
    let theirs_alone = theirs.keys().filter(|k| !mine.contains_key(*k));
    for key in mine.keys().chain(theirs_alone) {
        path.push(key.clone());
        let all = [base.get(key), mine.get(key), theirs.get(key)];
        // what is not written is empty
        let empty = match all.into_iter().flatten().next() {
            Some(Value::Array(_)) => Value::Array(Vec::new()),
            Some(Value::Object(_)) => Value::Object(Map::new()),
            _ => Value::Null,
        };
        let [b, m, t] = all.map(|value| value.unwrap_or(&empty));
        let value = merged(b, m, t, path)?;
        if value != empty || mine.contains_key(key) && theirs.contains_key(key) {
            result.insert(key.clone(), value);
        }
        path.pop();
    }
    Ok(result)
}

fn list(base: &[Value], mine: &[Value], theirs: &[Value], path: &mut Path) -> Result<Vec<Value>, Conflict> {
    let named = |all: &[Value]| all.iter().all(|v| id(v).is_some());
    if named(base) && named(mine) && named(theirs) {
        return named_list(base, mine, theirs, path);
    }
    // numbers stand for one another: a place, a colour, a matrix
    if base.iter().chain(mine).chain(theirs).all(Value::is_object) {
        nameless_list(base, mine, theirs, path)
    } else {
        Err(conflict(path, false))
    }
}

fn id(value: &Value) -> Option<&str> {
    value.get("id").and_then(Value::as_str)
}

/// Lists whose members have identifiers: members come, go and change by themselves; their order is changed by one side alone.
fn named_list(base: &[Value], mine: &[Value], theirs: &[Value], path: &mut Path) -> Result<Vec<Value>, Conflict> {
    let find = |all: &'_ [Value], name: &str| all.iter().position(|v| id(v) == Some(name));
    let order = |all: &[Value], among: &[Value]| -> Vec<String> {
        all.iter().filter_map(id).filter(|name| find(among, name).is_some()).map(str::to_owned).collect()
    };
    // one side may put what both have into another order
    let (first, second) = if order(mine, theirs) == order(theirs, mine) || order(theirs, base) == order(base, theirs) {
        (mine, theirs)
    } else if order(mine, base) == order(base, mine) {
        (theirs, mine)
    } else {
        path.push("order".into());
        let both = conflict(path, false);
        path.pop();
        return Err(both);
    };
    let mut result: Vec<Value> = Vec::with_capacity(first.len());
    for name in first.iter().filter_map(id) {
        let value = |all: &[Value]| find(all, name).and_then(|k| all.get(k).cloned());
        path.push(name.to_owned());
        match (value(base), value(mine), value(theirs)) {
            (Some(b), Some(m), Some(t)) => result.push(merged(&b, &m, &t, path)?),
            // taken away by one side, while the other one left it as it was
            (Some(b), Some(kept), None) | (Some(b), None, Some(kept)) if b == kept => {}
            (None, Some(m), Some(t)) if m != t => return Err(conflict(path, false)),
            (None, Some(new), _) | (None, None, Some(new)) => result.push(new),
            _ => return Err(conflict(path, true)),
        }
        path.pop();
    }
    // what only the second side has comes after what it came after there
    for (k, value) in second.iter().enumerate() {
        let Some(name) = id(value).filter(|name| find(first, name).is_none()) else { continue };
        match find(base, name).and_then(|k| base.get(k)) {
            Some(b) if b == value => {}
            Some(_) => {
                path.push(name.to_owned());
                return Err(conflict(path, true));
            }
            None => {
                let before = second[..k].iter().rev().filter_map(id).find_map(|name| find(&result, name));
                result.insert(before.map_or(0, |at| at + 1), value.clone());
            }
        }
    }
    Ok(result)
}

/// Lists whose members have no names.
fn nameless_list(base: &[Value], mine: &[Value], theirs: &[Value], path: &mut Path) -> Result<Vec<Value>, Conflict> {
    if let Some(added) = theirs.strip_prefix(base) {
        return Ok([mine, added].concat());
    }
    if let Some(added) = mine.strip_prefix(base) {
        return Ok([theirs, added].concat());
    }
    if base.len() == mine.len() && base.len() == theirs.len() {
        let all = base.iter().zip(mine).zip(theirs);
        return all.map(|((b, m), t)| merged(b, m, t, path)).collect();
    }
    // members that went on either side
    if is_part(mine, base) && is_part(theirs, base) {
        return Ok(base.iter().filter(|v| mine.contains(v) && theirs.contains(v)).cloned().collect());
    }
    Err(conflict(path, false))
}

/// Whether a list holds nothing but members of another one, in their order.
fn is_part(list: &[Value], of: &[Value]) -> bool {
    let mut rest = of.iter();
    list.iter().all(|v| rest.any(|w| v == w))
}

fn conflict(path: &Path, gone: bool) -> Conflict {
    let in_piece = path.first().is_some_and(|p| p == "pieces") && path.len() > 1;
    let piece = path.get(1).filter(|_| in_piece).and_then(|id| id.parse().ok().map(PieceId));
    let what = match (piece, path.last().map(String::as_str)) {
        (_, Some("order")) => Part::Order,
        (Some(_), _) => match path.get(2).map(String::as_str) {
            Some("kind") => match path.get(3).map(String::as_str) {
                Some("opening") => Part::Opening,
                Some("fills") => Part::Fills,
                Some("breakout") => Part::Breakout,
                Some("finish") => Part::Finish,
                Some("split") => Part::Panes,
                Some("repeat") => Part::Repeat,
                _ => Part::Piece,
            },
            Some("name") => Part::Name,
            _ => Part::Piece,
        },
        (None, _) => match path.first().map(String::as_str) {
            Some("name") => Part::Name,
            Some("inks") => Part::Inks,
            Some("photos") => Part::Photos,
            _ => Part::Sheet,
        },
    };
    Conflict { piece, what, gone }
}

impl Conflict {
    /// What both changed, with the name that a piece has on one of the sheets: “the opening of “KITES””.
    pub fn place(&self, sheets: &[&Sheet]) -> String {
        let label = self.piece.and_then(|id| sheets.iter().find_map(|s| s.piece(id).map(|p| p.label(s))));
        let of = |what: &str| label.as_ref().map_or_else(|| what.to_owned(), |l| format!("{what} of “{l}”"));
        match self.what {
            Part::Piece => label.map_or_else(|| "a piece".to_owned(), |l| format!("“{l}”")),
            Part::Opening => of("the opening"),
            Part::Fills => of("what fills the opening"),
            Part::Breakout => of("the breakout"),
            Part::Finish => of("the finish"),
            Part::Panes => of("the panes"),
            Part::Repeat => of("the members"),
            Part::Name => of("the name"),
            Part::Order => "the order of things".to_owned(),
            Part::Inks => "an ink".to_owned(),
            Part::Photos => "a photo's subjects".to_owned(),
            Part::Sheet => "the sheet itself".to_owned(),
        }
    }
}
