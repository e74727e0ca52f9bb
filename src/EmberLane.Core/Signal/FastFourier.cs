using System.Numerics;

namespace EmberLane.Core.Signal;

/// <summary>
/// The discrete Fourier transform of a size that is a power of two, unscaled, real and imaginary parts apart: Stockham's self-sorting form
/// (Cochran and others, 1967) in steps of four, many butterflies at once. The managed library that was used first took more than nine times
/// as long, which sync of long sources could not afford. Several threads may use one at once.
/// </summary>
internal sealed class FastFourier
{
    private readonly int size;
    private readonly float[] cosines,
        sines;

    public FastFourier(int size)
    {
        ArgumentOutOfRangeException.ThrowIfNotEqual(BitOperations.IsPow2(size), true, nameof(size));
        this.size = size;
        (cosines, sines) = (new float[size], new float[size]);
        for (var i = 0; i < size; i++)
        {
            var (sine, cosine) = Math.SinCos(-2 * Math.PI * i / size);
            (cosines[i], sines[i]) = ((float)cosine, (float)sine);
        }
    }

    /// <summary>In place, with <c>exp(−2πi·jk/size)</c>.</summary>
    public void Forward(float[] real, float[] imaginary)
    {
        float[] re = real,
            im = imaginary,
            otherRe = new float[size],
            otherIm = new float[size];
        var stride = 1;
        for (var n = size; n > 1; n /= 4)
        {
            if (n == 2)
            {
                Pairs(re, im, otherRe, otherIm, stride);
            }
            else
            {
                Fours(n, stride, re, im, otherRe, otherIm);
            }
            (re, im, otherRe, otherIm) = (otherRe, otherIm, re, im);
            stride *= 4;
        }
        if (re != real)
        {
            re.CopyTo(real, 0);
            im.CopyTo(imaginary, 0);
        }
    }

    /// <summary>In place, with <c>exp(+2πi·jk/size)</c>: forward and inverse give <c>size</c> times the input.</summary>
    public void Inverse(float[] real, float[] imaginary) => Forward(imaginary, real);

    private static void Pairs(float[] re, float[] im, float[] outRe, float[] outIm, int stride)
    {
        for (var q = 0; q < stride; q++)
        {
            (outRe[q], outRe[q + stride]) = (re[q] + re[q + stride], re[q] - re[q + stride]);
            (outIm[q], outIm[q + stride]) = (im[q] + im[q + stride], im[q] - im[q + stride]);
        }
    }

    private void Fours(int n, int stride, float[] re, float[] im, float[] outRe, float[] outIm)
    {
        int quarter = n / 4,
            turn = size / n,
            wide = Vector<float>.Count;
        for (var p = 0; p < quarter; p++)
        {
            float c1 = cosines[p * turn],
                s1 = sines[p * turn],
                c2 = cosines[2 * p * turn],
                s2 = sines[2 * p * turn],
                c3 = cosines[3 * p * turn],
                s3 = sines[3 * p * turn];
            int a = stride * p,
                b = a + (stride * quarter),
                c = b + (stride * quarter),
                d = c + (stride * quarter),
                to = 4 * a;
            var q = 0;
            for (; q + wide <= stride; q += wide)
            {
                Vector<float> ar = new(re, a + q),
                    ai = new(im, a + q),
                    br = new(re, b + q),
                    bi = new(im, b + q),
                    cr = new(re, c + q),
                    ci = new(im, c + q),
                    dr = new(re, d + q),
                    di = new(im, d + q);
                Vector<float> sumR = ar + cr,
                    sumI = ai + ci,
                    difR = ar - cr,
                    difI = ai - ci,
                    oddR = br + dr,
                    oddI = bi + di,
                    turnR = di - bi,
                    turnI = br - dr;
                (sumR + oddR).CopyTo(outRe, to + q);
                (sumI + oddI).CopyTo(outIm, to + q);
                Vector<float> xr = difR - turnR,
                    xi = difI - turnI,
                    yr = sumR - oddR,
                    yi = sumI - oddI,
                    zr = difR + turnR,
                    zi = difI + turnI;
                ((xr * c1) - (xi * s1)).CopyTo(outRe, to + stride + q);
                ((xr * s1) + (xi * c1)).CopyTo(outIm, to + stride + q);
                ((yr * c2) - (yi * s2)).CopyTo(outRe, to + (2 * stride) + q);
                ((yr * s2) + (yi * c2)).CopyTo(outIm, to + (2 * stride) + q);
                ((zr * c3) - (zi * s3)).CopyTo(outRe, to + (3 * stride) + q);
                ((zr * s3) + (zi * c3)).CopyTo(outIm, to + (3 * stride) + q);
            }
            for (; q < stride; q++)
            {
                float ar = re[a + q],
                    ai = im[a + q],
                    br = re[b + q],
                    bi = im[b + q],
                    cr = re[c + q],
                    ci = im[c + q],
                    dr = re[d + q],
                    di = im[d + q];
                float sumR = ar + cr,
                    sumI = ai + ci,
                    difR = ar - cr,
                    difI = ai - ci,
                    oddR = br + dr,
                    oddI = bi + di,
                    turnR = di - bi,
                    turnI = br - dr;
                (outRe[to + q], outIm[to + q]) = (sumR + oddR, sumI + oddI);
                float xr = difR - turnR,
                    xi = difI - turnI,
                    yr = sumR - oddR,
                    yi = sumI - oddI,
                    zr = difR + turnR,
                    zi = difI + turnI;
                (outRe[to + stride + q], outIm[to + stride + q]) = ((xr * c1) - (xi * s1), (xr * s1) + (xi * c1));
                (outRe[to + (2 * stride) + q], outIm[to + (2 * stride) + q]) = ((yr * c2) - (yi * s2), (yr * s2) + (yi * c2));
                (outRe[to + (3 * stride) + q], outIm[to + (3 * stride) + q]) = ((zr * c3) - (zi * s3), (zr * s3) + (zi * c3));
            }
        }
    }
}
