//! What has the same name elsewhere: a last resort.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{ClassRef, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_syntax::names::Name;
use rustc_hash::FxHashMap;

use super::super::evidence::{Evidence, Source, Strength, Why};
use super::super::known::{Known, is_test};

/// The types of a project's parameters by their names.
#[derive(Default)]
pub(crate) struct ByName {
    all: FxHashMap<Name, FxHashMap<Type, usize>>,
    of_class: FxHashMap<(ClassRef, Name), FxHashMap<Type, usize>>,
}

impl ByName {
    /// The parameters that are annotated, or were concluded, in files that are no tests.
    pub(crate) fn new(db: &Database, files: &[File], concluded: &FxHashMap<Parameter, Type>) -> ByName {
        let mut by_name = ByName::default();
        for file in files.iter().copied().filter(|file| !is_test(file.path(db)) && !file.is_stub(db)) {
            let index = module_index(db, file);
            for (function, record) in index.functions.iter() {
                let declared = functions::declared(db, file, function);
                for (place, param) in record.params.iter().enumerate() {
                    let parameter = Parameter { file, function, place: u32::try_from(place).unwrap_or(u32::MAX) };
                    let ty = match param.annotation {
                        Some(_) => declared.params.get(place).map(|param| param.ty),
                        None => concluded.get(&parameter).copied(),
                    };
                    let Some(ty) = ty else { continue };
                    let ty = union::without(db.store(), ty, Type::None);
                    if ty.is_dynamic() || ty == Type::Never {
                        continue;
                    }
                    *by_name.all.entry(param.name).or_default().entry(ty).or_default() += 1;
                    if let Some(class) = record.class {
                        let key = (ClassRef { file, class }, param.name);
                        *by_name.of_class.entry(key).or_default().entry(ty).or_default() += 1;
                    }
                }
            }
        }
        by_name
    }

    /// What others of a parameter's name are, where all are the same.
    pub(crate) fn of(&self, db: &Database, known: &Known, parameter: Parameter) -> Option<Evidence> {
        let index = module_index(db, parameter.file);
        let record = &index.functions[parameter.function];
        let param = &record.params[parameter.place as usize];
        let class = record.class.map(|class| (ClassRef { file: parameter.file, class }, param.name));
        let own = known.concluded.get(&parameter).map(|ty| union::without(db.store(), *ty, Type::None));
        let only = |all: &FxHashMap<Type, usize>| {
            let mut others = all.iter().filter_map(|(ty, count)| {
                let count = count - usize::from(own == Some(*ty));
                (count > 0).then_some((*ty, count))
            });
            let only = others.next()?;
            others.next().is_none().then_some(only)
        };
        let near = class.and_then(|class| self.of_class.get(&class)).and_then(only);
        let (ty, count, strength) = match near {
            Some((ty, count)) => (ty, count, Strength::Medium),
            None => {
                let (ty, count) = only(self.all.get(&param.name)?)?;
                (count > 1).then_some((ty, count, Strength::Weak))?
            }
        };
        let (source, file, range) = (Source::Names, parameter.file, param.name_range);
        Some(Evidence { source, ty, strength, file, range, why: Why::Named(count), passed_on: false })
    }
}
