"""Print the OpenAPI document, for generating the front end's types: python -m gray_quill.web.openapi."""

import json

import gray_quill.web.app  # registers every operation
from gray_quill.web.api import openapi_document

if __name__ == "__main__":
    assert gray_quill.web.app
    print(json.dumps(openapi_document(), indent=1, sort_keys=True))
