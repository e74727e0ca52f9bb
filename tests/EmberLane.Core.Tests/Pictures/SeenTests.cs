using EmberLane.Core.Media;
using EmberLane.Core.Pictures;

namespace EmberLane.Core.Tests.Pictures;

/// <summary>Who is seen, what is best, what a tagger says: as it is written on files.</summary>
public sealed class SeenTests
{
    private static readonly SourceRange Shot = new(PictureTests.At(0), PictureTests.At(60_000));

    private static readonly MediaTime Length = MediaTime.FromMilliseconds(60_000);

    private static SourceRange Part(long from, long to) => new(PictureTests.At(from), PictureTests.At(to));

    private static SeenPerson Person(int x, (byte, byte, byte) clothes) =>
        new(
            new PictureBox(x, 400, 80, 140),
            PictureTests.At(20_000),
            new PerMille(900),
            PictureLook.Of([PictureTests.Halves((190, 150, 120), clothes)])
        );

    [Fact]
    public void Faces_that_lie_at_one_place_are_one_person_and_each_place_another()
    {
        Face At(int x) => new(new PictureBox(x, 400, 80, 140), new PerMille(800));
        var frames = Enumerable
            .Range(0, 6)
            .Select(i =>
                SeenFrame.Of(PictureTests.At(2_000 * i), PictureTests.Plain(96, 54, 90, 90, 90), [At(700 - (5 * i)), At(200 + (5 * i))])
            )
            .ToList();
        var people = SeenPerson.Of(frames, Shot);
        Assert.Equal(2, people.Count);
        Assert.True(people[0].Box.X < 300 && people[1].Box.X > 600);
        Assert.All(people, p => Assert.Equal(PerMille.All, p.Seen));
    }

    [Fact]
    public void A_named_face_is_known_again_where_it_lies_and_its_name_can_be_taken_away()
    {
        SeenPerson left = Person(200, (90, 40, 30)),
            right = Person(700, (20, 50, 90));
        var labels = NamedFace.Give(NamedFace.Give(Labels.None, Shot, left, " Maren  Oakhurst "), Shot, right, "Tobias Fenn");
        Assert.Equal("Maren Oakhurst", NamedFace.NameOf(labels, Shot, left));
        Assert.Equal("Tobias Fenn", NamedFace.NameOf(labels, Shot, right));
        // Measured anew a little beside; another shot of the file says nothing of this one.
        Assert.Equal("Maren Oakhurst", NamedFace.NameOf(labels, Shot, left with { Box = left.Box with { X = 220 } }));
        Assert.Null(NamedFace.NameOf(labels, Part(30_000, 60_000), left));
        labels = NamedFace.Give(labels, Shot, left, "Ilse Varga");
        Assert.Equal("Ilse Varga", NamedFace.NameOf(labels, Shot, left));
        labels = NamedFace.Give(NamedFace.Give(labels, Shot, left, ""), Shot, right, "");
        Assert.Equal(Labels.None, labels);
        Assert.Throws<EditRefusedException>(() => NamedFace.Give(labels, Shot, left, new string('n', 61)));
    }

    [Fact]
    public void A_name_is_offered_to_who_looks_most_like_its_bearer_never_twice_and_not_where_two_fit_alike()
    {
        var maren = (Person(480, (90, 40, 30)), "Maren");
        var tobias = (Person(480, (20, 50, 90)), "Tobias");
        SeenPerson[] wide = [Person(300, (95, 45, 33)), Person(620, (22, 55, 96)), Person(800, (240, 240, 60))];
        Assert.Equal(["Maren", "Tobias", null], OfferedNames.Of(wide, [maren, tobias], []));
        Assert.Equal([null, "Tobias", null], OfferedNames.Of(wide, [maren, tobias], ["Maren"]));
        Assert.Equal(
            ["Maren", null, null],
            OfferedNames.Of([wide[0], wide[0] with { Box = new(0, 0, 10, 10) }, wide[2]], [maren, tobias], [])
        );
        Assert.Equal([null, null, null], OfferedNames.Of(wide, [], []));
        Assert.Equal([null], OfferedNames.Of([wide[0]], [maren, (Person(100, (92, 42, 31)), "Twin")], []));
    }

    [Fact]
    public void Best_seconds_are_kept_in_order_what_overlaps_becomes_one_and_its_note_stays()
    {
        var labels = BestPart.Mark(BestPart.Mark(Labels.None, Part(9_000, 12_000), Length), Part(1_000, 3_000), Length);
        Assert.Equal([Part(1_000, 3_000), Part(9_000, 12_000)], BestPart.Of(labels).Select(p => p.Range));
        labels = BestPart.Describe(labels, PictureTests.At(1_000), "  the gull \n lands ");
        Assert.Equal("the gull lands", BestPart.Of(labels)[0].Note);
        labels = BestPart.Mark(labels, Part(2_000, 4_000), Length);
        Assert.Equal([new BestPart(Part(2_000, 4_000), "the gull lands"), new BestPart(Part(9_000, 12_000), "")], BestPart.Of(labels));
        labels = BestPart.Unmark(BestPart.Unmark(labels, PictureTests.At(2_000)), PictureTests.At(9_000));
        Assert.Equal(Labels.None, labels);
    }

    [Fact]
    public void Best_seconds_that_can_not_be_are_refused_with_what_to_do()
    {
        Assert.Throws<EditRefusedException>(() => BestPart.Mark(Labels.None, Part(1_000, 1_000), Length));
        Assert.Throws<EditRefusedException>(() => BestPart.Mark(Labels.None, Part(50_000, 60_001), Length));
        Assert.Throws<EditRefusedException>(() => BestPart.Mark(Labels.None, Part(-1, 10), Length));
        Assert.Throws<EditRefusedException>(() => BestPart.Describe(Labels.None, PictureTests.At(0), "nothing there"));
        var many = Enumerable
            .Range(0, BestPart.Most)
            .Aggregate(Labels.None, (l, i) => BestPart.Mark(l, Part(1_000 * i, (1_000 * i) + 500), Length));
        Assert.Throws<EditRefusedException>(() => BestPart.Mark(many, Part(55_000, 56_000), Length));
        Assert.Throws<EditRefusedException>(() => BestPart.Describe(many, PictureTests.At(0), new string('n', 121)));
    }

    [Fact]
    public void A_taggers_answer_is_read_the_surest_first_each_tag_once()
    {
        var tags = PictureTag.Read(
            """[{"tag":"Water","confidence":0.5},{"tag":" ferry ","confidence":0.93},{"tag":"water","confidence":0.7}]"""
        );
        Assert.Equal([new PictureTag("ferry", new PerMille(930)), new PictureTag("water", new PerMille(700))], tags);
        Assert.Equal("gull", Assert.Single(PictureTag.Read("""{"model":"x","tags":[{"tag":"gull","confidence":1,"box":[]}]}""")).Tag);
        Assert.Empty(PictureTag.Read("[]"));
        Assert.Equal(
            PictureTag.Most,
            PictureTag
                .Read("[" + string.Join(',', Enumerable.Range(0, 500).Select(i => $$"""{"tag":"t{{i}}","confidence":0.4}""")) + "]")
                .Count
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("ferry, water")]
    [InlineData("<html>")]
    [InlineData("{}")]
    [InlineData("7")]
    [InlineData("""["ferry"]""")]
    [InlineData("""[{"tag":"ferry"}]""")]
    [InlineData("""[{"tag":7,"confidence":0.4}]""")]
    [InlineData("""[{"tag":"ferry","confidence":93}]""")]
    [InlineData("""[{"tag":"ferry","confidence":"high"}]""")]
    [InlineData("""[{"tag":"  ","confidence":0.4}]""")]
    [InlineData("""{"tags":{"ferry":0.4}}""")]
    public void A_tagger_that_answers_nonsense_is_told_so_in_a_sentence(string answer) =>
        Assert.EndsWith(".", Assert.Throws<FormatException>(() => PictureTag.Read(answer)).Message, StringComparison.Ordinal);
}
