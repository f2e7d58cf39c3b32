"""What is compiled, with every constant that it reads.

Nothing here imports from the rest of the program: the folder is all that machine code is made of,
so a digest of its files says whether code kept on disk is still true (`compiler.py`).
"""
