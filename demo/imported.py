"""What a helper needs, imported once: the helpers are forked from a process that has all of it."""

import django
import scipy.fft
import scipy.ndimage
import scipy.optimize
import scipy.spatial.transform  # noqa: F401
import skimage.measure  # noqa: F401

django.setup()

from ypsicline.server.photos import photos  # noqa: E402, F401
