//! The fonts that ship: one family in two weights, and one behind it for what that does not have.

use crate::NotPrinted;
use parley::FontContext;
use parley::fontique::{Blob, Collection, CollectionOptions, SourceCache};
use resvg::usvg;
use std::sync::Arc;

const FILES: [&[u8]; 3] = [
    include_bytes!("../fonts/AtkinsonHyperlegibleNext_400Regular.ttf"),
    include_bytes!("../fonts/AtkinsonHyperlegibleNext_700Bold.ttf"),
    include_bytes!("../fonts/DejaVuSans.ttf"),
];

/// What text is set in.
pub(crate) const FAMILY: &str = "Atkinson Hyperlegible Next";
/// What stands in for a letter it does not have.
pub(crate) const BEHIND: &str = "DejaVu Sans";

/// The fonts, read once.
#[derive(Clone)]
pub struct Fonts {
    collection: Collection,
    drawn: Arc<usvg::fontdb::Database>,
}

impl Default for Fonts {
    fn default() -> Self {
        let mut collection = Collection::new(CollectionOptions {
            shared: false,
            system_fonts: false,
        });
        let mut drawn = usvg::fontdb::Database::new();
        for file in FILES {
            collection.register_fonts(Blob::new(Arc::new(file)), None);
            drawn.load_font_data(file.to_vec());
        }
        drawn.set_sans_serif_family(BEHIND);
        Self {
            collection,
            drawn: Arc::new(drawn),
        }
    }
}

impl Fonts {
    /// For text that is laid out.
    pub(crate) fn context(&self) -> FontContext {
        FontContext {
            collection: self.collection.clone(),
            source_cache: SourceCache::default(),
        }
    }

    /// A drawing, read as every reader of SVG would.
    pub(crate) fn tree(&self, svg: &str) -> Result<usvg::Tree, NotPrinted> {
        let options = usvg::Options {
            font_family: FAMILY.to_owned(),
            fontdb: Arc::clone(&self.drawn),
            ..usvg::Options::default()
        };
        usvg::Tree::from_str(svg, &options).map_err(|_| NotPrinted("the drawing does not read"))
    }
}
