using SkiaSharp;

namespace EmberLane.Footage;

/// <summary>Draws people in a place. The scene is 960 × 540 units; a camera shows a part of it.</summary>
internal static class Stage
{
    public const int Width = 960,
        Height = 540;

    /// <summary>One frame: what a camera at (x, y) with this zoom sees at time t, with each person's mouth open by 0..1.</summary>
    public static void Draw(
        SKCanvas canvas,
        string place,
        IReadOnlyList<Person> people,
        Func<string, float> mouth,
        double t,
        float x,
        float y,
        float zoom,
        bool walks
    )
    {
        if (walks)
        {
            x += 7 * (float)Math.Sin(t * 1.9);
            y += 4 * (float)Math.Abs(Math.Sin(t * 3.4));
        }
        canvas.Save();
        canvas.Translate(Width / 2f, Height / 2f);
        canvas.Scale(zoom);
        canvas.Translate(-x, -y);
        Place(canvas, place, t);
        foreach (var person in people.Where(p => p.Seen))
        {
            Someone(canvas, person, mouth(person.Key), t);
        }
        canvas.Restore();
    }

    private static void Place(SKCanvas canvas, string place, double t)
    {
        switch (place)
        {
            case "ferry":
                Box(canvas, -200, -200, 1400, 420, 0xFFC3CFD6);
                Water(canvas, 215, 160, t, 0xFF7D99A8);
                Box(canvas, -200, 238, 1400, 7, 0xFF4A3B30);
                Box(canvas, -200, 345, 1400, 400, 0xFF6F5A48);
                for (var post = -160; post < 1200; post += 170)
                {
                    Box(canvas, post, 238, 8, 120, 0xFF4A3B30);
                }
                Line(canvas, -200, 180, 1200, 150 + (3 * (float)Math.Sin(t * 5)), 2.5f, 0xFF5A5148);
                break;
            case "hut":
                Box(canvas, -200, -200, 1400, 1000, 0xFFD8D2C2);
                Box(canvas, 90, 90, 250, 170, 0xFFB9CCD3);
                Water(canvas, 190, 70, t, 0xFF87A3A8, 90, 340);
                Box(canvas, 84, 84, 262, 8, 0xFF7A6650);
                Box(canvas, 84, 258, 262, 10, 0xFF7A6650);
                Box(canvas, 211, 90, 7, 170, 0xFF7A6650);
                Box(canvas, 640, 80, 280, 150, 0xFF3C4A44);
                Line(canvas, 670, 120, 800, 116, 3, 0xFFDAD8CC);
                Line(canvas, 670, 150, 860, 148, 3, 0xFFDAD8CC);
                Line(canvas, 670, 182, 760, 180, 3, 0xFFDAD8CC);
                Box(canvas, -200, 420, 1400, 400, 0xFF8D7A62);
                break;
            case "bridge":
                Box(canvas, -200, -200, 1400, 800, 0xFFCBD5D8);
                Water(canvas, 330, 300, t, 0xFF8298A0);
                Box(canvas, -200, 395, 1400, 300, 0xFF8A8178);
                for (var girder = -200; girder < 1300; girder += 150)
                {
                    var at = girder - (float)(t * 22 % 150);
                    Line(canvas, at, 395, at + 75, 120, 9, 0xFF9C4F33);
                    Line(canvas, at + 75, 120, at + 150, 395, 9, 0xFF9C4F33);
                }
                Box(canvas, -200, 112, 1400, 14, 0xFF9C4F33);
                break;
            case "drum":
                Box(canvas, -200, -200, 1400, 1000, 0xFFB8C0C0);
                Box(canvas, -200, 400, 1400, 400, 0xFF6F5A48);
                Disc(canvas, 470, 290, 170, 0xFF5B5148);
                Disc(canvas, 470, 290, 140, 0xFF8C7B66);
                Disc(canvas, 470, 290, 36, 0xFF3C342C);
                for (var spoke = 0; spoke < 5; spoke++)
                {
                    var angle = (t * 0.6) + (spoke * Math.PI * 0.4);
                    Line(canvas, 470, 290, 470 + (130 * (float)Math.Cos(angle)), 290 + (130 * (float)Math.Sin(angle)), 9, 0xFF3C342C);
                }
                Line(canvas, 470, 122, 1200, 96, 5, 0xFF3C342C);
                break;
            case "ramp":
                Box(canvas, -200, -200, 1400, 540, 0xFFDAD3C2);
                Water(canvas, 330, 300, t, 0xFF7D99A8);
                canvas.DrawPath(Shape((280, 540), (400, 250), (560, 250), (700, 540)), Paint(0xFF8D7A62));
                Line(canvas, 400, 250, 280, 540, 6, 0xFF5A4A3C);
                Line(canvas, 560, 250, 700, 540, 6, 0xFF5A4A3C);
                break;
            default:
                Water(canvas, -200, 900, t, 0xFF5F8088);
                canvas.DrawPath(Shape((480, 200), (760, 540), (200, 540)), Paint(0xFF5A3A2C));
                for (var foam = 0; foam < 9; foam++)
                {
                    var way = (float)(((t * 60) + (foam * 37)) % 330);
                    Disc(canvas, 480 - (way * 0.85f), 210 + way, 9 + (foam % 4 * 3), 0xFFDCE6E6);
                    Disc(canvas, 480 + (way * 0.85f), 210 + way, 8 + (foam % 3 * 4), 0xFFDCE6E6);
                }
                break;
        }
    }

    private static void Someone(SKCanvas canvas, Person p, float mouth, double t)
    {
        var sway = (float)(Math.Sin((t * 0.7) + p.X) * 3);
        float x = p.X + sway,
            y = p.Y + (float)(Math.Sin((t * 1.1) + p.Y) * 1.2) - (mouth * 1.5f);
        canvas.DrawRoundRect(x - 78, y + 66, 156, 260, 64, 64, Paint(p.Coat));
        Box(canvas, x - 17, y + 40, 34, 40, p.Skin);
        canvas.DrawOval(x, y, 46, 56, Paint(p.Skin));
        if (p.Cap)
        {
            canvas.DrawPath(Arc(x, y - 14, 52, 52), Paint(p.Head));
            Box(canvas, x - 56, y - 18, 112, 9, p.Head);
        }
        else
        {
            canvas.DrawPath(Arc(x, y - 8, 51, 56), Paint(p.Head));
            canvas.DrawOval(x - 46, y + 4, 9, 34, Paint(p.Head));
            canvas.DrawOval(x + 46, y + 4, 9, 34, Paint(p.Head));
        }
        var blink = ((t * 0.31) + (p.X * 0.013)) % 1 < 0.035;
        foreach (var eye in new[] { x - 17, x + 17 })
        {
            canvas.DrawOval(eye, y + 4, 4, blink ? 0.8f : 4.5f, Paint(0xFF2A211B));
        }
        Line(canvas, x, y + 8, x + 4, y + 20, 2.5f, 0x60402A1C);
        canvas.DrawOval(x, y + 32, 13 - (mouth * 3), 2 + (mouth * 10), Paint(0xFF7A3A34));
    }

    private static void Water(SKCanvas canvas, float top, float depth, double t, uint colour, float left = -200, float right = 1200)
    {
        Box(canvas, left, top, right - left, depth, colour);
        for (var row = 0; row < 5; row++)
        {
            var y = top + 14 + (row * depth / 6);
            using var wave = new SKPath();
            wave.MoveTo(left, y);
            for (var x = left; x <= right; x += 28)
            {
                wave.LineTo(x, y + (3 * (float)Math.Sin((x * 0.03) + (t * (0.9 + (row * 0.15))) + row)));
            }
            using var line = Paint(0x40FFFFFF);
            line.Style = SKPaintStyle.Stroke;
            line.StrokeWidth = 2;
            canvas.DrawPath(wave, line);
        }
    }

    private static void Box(SKCanvas canvas, float x, float y, float w, float h, uint colour) => canvas.DrawRect(x, y, w, h, Paint(colour));

    private static void Disc(SKCanvas canvas, float x, float y, float r, uint colour) => canvas.DrawCircle(x, y, r, Paint(colour));

    private static void Line(SKCanvas canvas, float x, float y, float toX, float toY, float width, uint colour)
    {
        using var paint = Paint(colour);
        paint.StrokeWidth = width;
        canvas.DrawLine(x, y, toX, toY, paint);
    }

    private static SKPath Arc(float x, float y, float rx, float ry)
    {
        var path = new SKPath();
        path.AddArc(new SKRect(x - rx, y - ry, x + rx, y + ry), 180, 180);
        return path;
    }

    private static SKPath Shape(params (float X, float Y)[] points)
    {
        var path = new SKPath();
        path.AddPoly([.. points.Select(p => new SKPoint(p.X, p.Y))], true);
        return path;
    }

    private static SKPaint Paint(uint colour) => new() { Color = new SKColor(colour), IsAntialias = true };
}
