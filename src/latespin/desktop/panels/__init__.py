"""One editor panel for each stage.

Panels show stages and emit requests; they never edit the document. Forms are made from declarations
(``widgets/struct_form.py``).
"""
