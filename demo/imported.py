"""What a helper needs, imported and printed once: the helpers are forked from a process that has all of it."""

import django
import scipy.fft
import scipy.ndimage
import scipy.optimize
import scipy.spatial.transform  # noqa: F401
import skimage.measure  # noqa: F401

django.setup()

from demo.photos import settings  # noqa: E402
from ypsicline.server.photos import photos  # noqa: E402, F401
from ypsicline.standins.camera import page_of  # noqa: E402

for scene, _shot in settings().values():
    for laid in scene.sheets:
        page_of(laid.sheet)
