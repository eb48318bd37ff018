"""What takes longer than a request may: asked for once, computed by any worker, kept for all.

A kind of computation is a function registered in :mod:`kinds`. Pages look with
:func:`asking.answer_to`, which writes nothing, and ask with :func:`asking.ask`.
"""
