"""Static files with their hash in the name, module imports included."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class HashedModules(CompressedManifestStaticFilesStorage):
    """Static files whose names change with their content, modules too."""

    support_js_module_import_aggregation = True
