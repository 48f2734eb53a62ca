"""XML from outside, the only place where it is read: no entities, no DTD, and counted while it is read."""

from typing import Any
from xml.etree.ElementTree import Element, ParseError, TreeBuilder

import defusedxml.ElementTree as SafeTree
from defusedxml.common import DefusedXmlException

from gray_quill.core.errors import FormatError, TooLarge

DEEPEST = 40


def read_xml(data: bytes, what: str, most_elements: int, deepest: int = DEEPEST) -> Element:
    """The outermost element of a document. what: how such a file is called. Raises FormatError for what is no XML that
    is read, TooLarge as soon as there are more elements, or deeper ones.
    """
    parser = SafeTree.DefusedXMLParser(target=_Counting(what, most_elements, deepest), forbid_dtd=True)
    try:
        parser.feed(data)  # whole: a long attribute that comes in parts is looked through again for each
        root: Element = parser.close()
    except DefusedXmlException:
        raise FormatError(
            f"This {what} file declares entities or a DTD, which are not read. Save it without its <!DOCTYPE> part."
        ) from None
    except (ParseError, ValueError, LookupError) as error:
        raise FormatError(f"This is not well-formed XML ({error}). Save it as {what} again.") from None
    return root


class _Counting(TreeBuilder):
    """Builds the tree, and ends where it has too many elements or too deep ones."""

    def __init__(self, what: str, most_elements: int, deepest: int) -> None:
        super().__init__()
        self.what, self.most_elements, self.deepest = what, most_elements, deepest
        self.count = self.depth = 0

    def start(self, tag: Any, attrs: Any, /) -> Element:
        self.count += 1
        self.depth += 1
        if self.depth > self.deepest:
            raise TooLarge(
                f"This {self.what} file nests elements more than {self.deepest} deep. Save it without nested groups."
            )
        if self.count > self.most_elements:
            raise TooLarge(f"This {self.what} file holds over {self.most_elements} elements. Save it in parts.")
        return super().start(tag, attrs)

    def end(self, tag: Any, /) -> Element:
        self.depth -= 1
        return super().end(tag)


def local_name(element: Element) -> str:
    """Its name without the namespace."""
    return str(element.tag).rsplit("}", 1)[-1]
