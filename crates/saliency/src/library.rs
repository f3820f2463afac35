//! The network in ONNX Runtime, whose library `scripts/onnxruntime.sh` puts beside what is built.

use crate::model::{MODEL, SIDE};
use inky_core::cutout::Watch;
use ort::environment::Environment;
use ort::ep::CPU;
use ort::session::builder::GraphOptimizationLevel;
use ort::session::{RunOptions, Session};
use ort::value::TensorRef;
use std::path::PathBuf;
use std::sync::{Mutex, OnceLock, PoisonError};

/// Where the library lies, in the folder of the program or one of the folders around it.
const PLACE: &str = "onnxruntime/libonnxruntime.so";
/// How many of these folders are looked at: tests lie two deeper than what is built.
const FOLDERS: usize = 3;

pub struct Library {
    /// One look at a time: it takes all processors anyway.
    session: Mutex<Session>,
}

impl Library {
    /// The network, if the library is there and takes it.
    pub fn load() -> Option<Self> {
        // a library is loaded once a process
        static ENVIRONMENT: OnceLock<Option<Environment>> = OnceLock::new();
        let environment = ENVIRONMENT.get_or_init(|| ort::init_from(find()?).ok()?.with_telemetry(false).build().ok());
        let session = session(environment.as_ref()?).ok()?;
        Some(Self { session: Mutex::new(session) })
    }

    /// As [`crate::built_in::BuiltIn::run`]. Not stopped once it has begun. After the last of several looks its memory, 250 MB, is given back.
    pub fn run(&self, input: Vec<f32>, last: bool, watch: &dyn Watch) -> Result<Vec<f32>, String> {
        let mut session = self.session.lock().unwrap_or_else(PoisonError::into_inner);
        watch.go_on().map_err(|_| "cancelled")?;
        let input = TensorRef::from_array_view(([1, 3, SIDE, SIDE], &input[..])).map_err(|e| e.to_string())?;
        let options = options(last).map_err(|e| e.to_string())?;
        let output = session.run_with_options(ort::inputs![input], &options).map_err(|e| e.to_string())?;
        let (_, map) = output[0].try_extract_tensor::<f32>().map_err(|e| e.to_string())?;
        watch.step(1.0, "");
        Ok(map.to_vec())
    }
}

fn find() -> Option<PathBuf> {
    let program = std::env::current_exe().ok()?;
    program.ancestors().skip(1).take(FOLDERS).map(|folder| folder.join(PLACE)).find(|library| library.is_file())
}

fn options(last: bool) -> ort::Result<RunOptions> {
    let mut options = RunOptions::new()?;
    if last {
        options.set("memory.enable_memory_arena_shrinkage", "cpu:0")?;
    }
    Ok(options)
}

fn session(environment: &Environment) -> ort::Result<Session> {
    let threads = std::thread::available_parallelism().map_or(1, usize::from);
    Session::builder(environment)?
        // memory is kept from look to look: to touch new pages takes a fifth of a look's time
        .with_execution_providers([CPU::default().with_arena_allocator(true).build()])?
        .with_optimization_level(GraphOptimizationLevel::All)?
        .with_intra_threads(threads)?
        // threads that wait leave the processors to others
        .with_intra_op_spinning(false)?
        .commit_from_memory(MODEL)
}
