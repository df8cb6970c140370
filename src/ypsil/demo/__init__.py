"""The sample scenario: generators of its data and the loader that makes its reports."""
