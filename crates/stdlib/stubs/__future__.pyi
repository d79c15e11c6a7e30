# After the library reference, "__future__".
class _Feature:
    compiler_flag: int
    def __init__(self, optionalRelease: tuple[int, int, int, str, int], mandatoryRelease: tuple[int, int, int, str, int] | None, compiler_flag: int) -> None: ...
    def getOptionalRelease(self) -> tuple[int, int, int, str, int]: ...
    def getMandatoryRelease(self) -> tuple[int, int, int, str, int] | None: ...

all_feature_names: list[str]
nested_scopes: _Feature
generators: _Feature
division: _Feature
absolute_import: _Feature
with_statement: _Feature
print_function: _Feature
unicode_literals: _Feature
barry_as_FLUFL: _Feature
generator_stop: _Feature
annotations: _Feature
