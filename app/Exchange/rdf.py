"""Turns RDF files into N-Triples and back, by rdflib: rdf.py read|write FORMAT IN OUT.

Nothing is fetched: what a file refers to by address stays outside.
"""
import sys
import urllib.request


def closed(*_args, **_kwargs):
    raise OSError('The file refers to something outside, which is not fetched.')


urllib.request.urlopen = closed

import rdflib  # noqa: E402
from rdflib import Graph  # noqa: E402

FORMATS = {'turtle': 'turtle', 'rdfxml': 'xml', 'jsonld': 'json-ld'}


def main() -> int:
    way, name, source, target = sys.argv[1:5]
    form = FORMATS[name]
    graph = Graph(bind_namespaces='none') if rdflib.__version__ >= '6.2' else Graph()
    graph.bind('skos', rdflib.Namespace('http://www.w3.org/2004/02/skos/core#'))
    graph.bind('dct', rdflib.Namespace('http://purl.org/dc/terms/'))
    graph.bind('owl', rdflib.Namespace('http://www.w3.org/2002/07/owl#'))
    graph.bind('brenvic', rdflib.Namespace('urn:brenvic:scheme#'))
    try:
        graph.parse(source, format='nt' if way == 'write' else form)
    except Exception as fault:  # The parsers raise errors of many kinds; each means the same here.
        print(str(fault).splitlines()[0][:300] if str(fault) else type(fault).__name__, file=sys.stderr)
        return 3
    if way == 'write' and name == 'rdfxml':
        form = 'pretty-xml'
    graph.serialize(target, format='nt' if way == 'read' else form, encoding='utf-8')
    return 0


if __name__ == '__main__':
    sys.exit(main())
