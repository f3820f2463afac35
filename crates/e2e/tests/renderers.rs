//! Every demo sheet, drawn by two renderers.

use anyhow::Result;
use inky_core::cutout::Saliency;
use inky_e2e::renderers::Loaded;
use inky_e2e::root;
use inky_saliency::Network;
use std::sync::Arc;

#[test]
fn demo_sheets_are_drawn_alike_by_two_renderers() -> Result<()> {
    let network: Arc<dyn Saliency> = Arc::new(Network::load()?);
    let folder = root().join("demo");
    let mut seen = 0;
    for entry in std::fs::read_dir(&folder)? {
        let path = entry?.path();
        if path.to_string_lossy().ends_with(".sheet.json") {
            Loaded::read(&std::fs::read(&path)?, &folder, Some(Arc::clone(&network)))?.renderers_agree(101.6, 1.0)?;
            seen += 1;
        }
    }
    assert!(seen >= 7, "{seen} demo sheets");
    Ok(())
}
