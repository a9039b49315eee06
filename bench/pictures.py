"""The same measurements of the same pictures by OpenCV: times only, one JSON line. Called by `./walkdown bench pictures`."""

import json
import sys
import time

import cv2
import numpy as np

folder, wide, high, times = sys.argv[1], int(sys.argv[2]), int(sys.argv[3]), int(sys.argv[4])
# Core measures a picture on one processor; so does this.
cv2.setNumThreads(1)


def raw(name):
    return np.fromfile(f"{folder}/{name}.grey", dtype=np.uint8).reshape(high, wide)


picture, turned = raw("one"), raw("other")
MASK = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], dtype=np.float32)


def tiles(p, rows, columns):
    for r in range(rows):
        for c in range(columns):
            yield p[r * high // rows : (r + 1) * high // rows, c * wide // columns : (c + 1) * wide // columns]


def exposure(p):
    h = cv2.calcHist([p], [0], None, [256], [0, 256]).ravel()
    total = h.cumsum()
    mean, deviation = cv2.meanStdDev(p)
    return total[5], total[-1] - total[249], np.searchsorted(total, [0.05 * p.size, 0.95 * p.size]), deviation / mean


def sharpness(p):
    dx = cv2.Sobel(p, cv2.CV_16S, 1, 0, ksize=1)
    dy = cv2.Sobel(p, cv2.CV_16S, 0, 1, ksize=1)
    slopes = cv2.norm(dx, cv2.NORM_L2SQR) + cv2.norm(dy, cv2.NORM_L2SQR)
    _, deviation = cv2.meanStdDev(cv2.Laplacian(p, cv2.CV_16S, ksize=1))
    return cv2.mean(p), slopes, deviation


def sharpness_map(p):
    return [sharpness(t) for t in tiles(p, 6, 8)]


def sigma(p):
    return cv2.norm(cv2.filter2D(p, cv2.CV_16S, MASK), cv2.NORM_L1)


def noise(p):
    return sigma(p), sorted(sigma(t) for t in tiles(p, 6, 8)), cv2.mean(p)


def blocked(p):
    return [(cv2.meanStdDev(a), cv2.meanStdDev(b)) for a, b in zip(tiles(p, 6, 8), tiles(turned, 6, 8))]


WINDOW = cv2.createHanningWindow((256, 256), cv2.CV_32F)
WIDER = cv2.createHanningWindow((512, 512), cv2.CV_32F)
UNTIL = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 50, 1e-4)


def spectrum(square):
    plane = cv2.dft(square * WINDOW, flags=cv2.DFT_COMPLEX_OUTPUT)
    size = np.fft.fftshift(np.log1p(cv2.magnitude(plane[..., 0], plane[..., 1])))
    return cv2.warpPolar(size.astype(np.float32), (256, 256), (128, 128), 128, cv2.WARP_POLAR_LOG)


def registered(p):
    """By phases, turned and zoomed, at the size that Core looks at."""
    fine = [cv2.resize(x, (640, 640 * high // wide), interpolation=cv2.INTER_AREA).astype(np.float32) for x in (p, turned)]
    square = [cv2.resize(x, (256, 256), interpolation=cv2.INTER_AREA) for x in fine]
    (scale, turn), _ = cv2.phaseCorrelate(spectrum(square[0]), spectrum(square[1]), WINDOW)
    degrees, size = -turn * 360 / 256, np.exp(scale * np.log(128) / 256)
    rows, columns = fine[0].shape
    found = []
    for way in (degrees, degrees + 180):
        back = cv2.getRotationMatrix2D((columns / 2, rows / 2), way, 1 / size)
        laid = cv2.warpAffine(fine[1], back, (columns, rows))
        found.append((cv2.phaseCorrelate(fine[0], laid, cv2.createHanningWindow((columns, rows), cv2.CV_32F)), back))
    return fine, found


def refined(p):
    """The same, then made fine until it moves no more: what Core's tenths of a pixel come from."""
    fine, found = registered(p)
    (shift, _), _ = max(found, key=lambda f: f[0][1])
    start = np.array([[1, 0, shift[0]], [0, 1, shift[1]]], dtype=np.float32)
    try:
        return cv2.findTransformECC(fine[0], fine[1], start, cv2.MOTION_AFFINE, UNTIL, None, 5)
    except cv2.error:
        return None


def orientation(p):
    a, b = (cv2.resize(x, (512, 512 * high // wide), interpolation=cv2.INTER_AREA).astype(np.float32) for x in (p, turned))
    a, b = (cv2.copyMakeBorder(x, 0, 512 - x.shape[0], 0, 0, cv2.BORDER_CONSTANT) for x in (a, b))
    return [cv2.phaseCorrelate(a, x, WIDER) for x in (b, cv2.flip(b, -1), cv2.flip(b, 1), cv2.flip(b, 0))]


def median(act):
    for _ in range(3):
        act(picture)
    took = []
    for _ in range(times):
        began = time.perf_counter()
        act(picture)
        took.append((time.perf_counter() - began) * 1000)
    return sorted(took)[times // 2]


print(
    json.dumps(
        {
            "version": cv2.__version__,
            **{
                f.__name__: median(f)
                for f in (exposure, sharpness, sharpness_map, noise, blocked, orientation, registered, refined)
            },
        }
    )
)
