"""Static files under names that change with their content."""

from whitenoise.storage import CompressedManifestStaticFilesStorage

__all__ = ["ModuleStorage"]


class ModuleStorage(CompressedManifestStaticFilesStorage):
    """Also where one script imports another: else it would ask for a name that is not served."""

    support_js_module_import_aggregation = True
