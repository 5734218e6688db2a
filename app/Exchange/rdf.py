"""Turns RDF files into N-Triples and back, by rdflib: rdf.py read|write FORMAT IN OUT.

Nothing is fetched: what a file refers to by address stays outside.
"""
import sys
import urllib.request
import xml.parsers.expat


def closed(*_args, **_kwargs):
    raise OSError('The file refers to something outside, which is not fetched.')


urllib.request.urlopen = closed

import rdflib  # noqa: E402
from rdflib import Graph  # noqa: E402

FORMATS = {'turtle': 'turtle', 'rdfxml': 'xml', 'jsonld': 'json-ld'}


# An entity may stand for a short text, as many exports abbreviate addresses; one that holds others could grow without end.
LONGEST_ENTITY = 300
LARGEST = 50_000_000


def refuse_growing(source: str) -> None:
    """Refuses XML whose entities come from outside, hold others, or make the document large."""
    with open(source, 'rb') as file:
        contents = file.read()
    parser = xml.parsers.expat.ParserCreate()
    entities = {}

    def declared(name, is_parameter, value, base, system, public, notation):
        if is_parameter or system is not None or public is not None or notation is not None:
            raise ValueError('The file declares entities from outside, which are not fetched.')
        if '&' in value or '%' in value or len(value) > LONGEST_ENTITY or len(entities) > 200:
            raise ValueError('The file declares entities that grow when they are read.')
        entities[name] = value

    def started(*_args):
        # Declarations stand before the first element: from here on nothing new can be declared.
        raise StopIteration

    parser.EntityDeclHandler = declared
    parser.StartElementHandler = started
    try:
        parser.Parse(contents, True)
    except StopIteration:
        pass
    plain = contents.replace(b'\0', b'')
    grown = sum(plain.count(f'&{name};'.encode()) * len(value) for name, value in entities.items())
    if grown > LARGEST:
        raise ValueError('The file declares entities that grow when they are read.')


def main() -> int:
    way, name, source, target = sys.argv[1:5]
    form = FORMATS[name]
    graph = Graph(bind_namespaces='none') if rdflib.__version__ >= '6.2' else Graph()
    graph.bind('skos', rdflib.Namespace('http://www.w3.org/2004/02/skos/core#'))
    graph.bind('dct', rdflib.Namespace('http://purl.org/dc/terms/'))
    graph.bind('owl', rdflib.Namespace('http://www.w3.org/2002/07/owl#'))
    graph.bind('brenvic', rdflib.Namespace('urn:brenvic:scheme#'))
    try:
        if way == 'read' and form == 'xml':
            refuse_growing(source)
        graph.parse(source, format='nt' if way == 'write' else form)
    except Exception as fault:  # The parsers raise errors of many kinds; each means the same here.
        print(str(fault).splitlines()[0][:300] if str(fault) else type(fault).__name__, file=sys.stderr)
        return 3
    # rdflib's nested form of RDF/XML (pretty-xml) loses statements of ordered lists, as the order of its nodes has it; the
    # plain form has every statement.
    graph.serialize(target, format='nt' if way == 'read' else form, encoding='utf-8')
    return 0


if __name__ == '__main__':
    sys.exit(main())
