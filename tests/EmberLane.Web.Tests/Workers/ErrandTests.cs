using EmberLane.Application.Hands;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;
using EmberLane.Queue;

namespace EmberLane.Web.Tests.Workers;

/// <summary>Errands by themselves: their names, the paths that they look at, what is asked and what may be answered.</summary>
public sealed class ErrandTests : IDisposable
{
    private static readonly MediaTime Minute = MediaTime.FromMilliseconds(60_000);

    private readonly string folder = Directory.CreateTempSubdirectory("ember-errand").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string File1(string name, int bytes = 10)
    {
        var path = Path.Combine(folder, name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllBytes(path, new byte[bytes]);
        return path;
    }

    [Fact]
    public void The_same_work_has_the_same_name_and_other_work_another()
    {
        var film = File1("film.mov");
        Errand Of(string title, string path, long at) => CopyErrand.Picture(title, path, new MediaTime(at), "/made");
        var name = ErrandId.Of(Of("a", film, 1));
        Assert.Equal(name, ErrandId.Of(Of("called otherwise", film, 1)));
        Assert.NotEqual(name, ErrandId.Of(Of("a", film, 2)));
        Assert.NotEqual(name, ErrandId.Of(Of("a", File1("other.mov"), 1)));
        File1("film.mov", 11);
        Assert.NotEqual(name, ErrandId.Of(Of("a", film, 1)));
        Errand Speech(string path) => SpeechErrand.Of("local", new ToRecognise(path, "a", "en", []), Minute);
        Assert.Equal(ErrandId.Of(Speech(File1("a.wav"))), ErrandId.Of(Speech(File1("b.wav"))));
        Assert.NotEqual(ErrandId.Of(Speech(File1("a.wav"))), ErrandId.Of(Speech(File1("c.wav", 12))));
    }

    [Fact]
    public void A_worker_finds_footage_where_it_lies_here_and_opens_nothing_else()
    {
        var film = File1("mnt/day 1/film.mov");
        File1("secret");
        File.CreateSymbolicLink(Path.Combine(folder, "mnt", "out"), Path.Combine(folder, "secret"));
        var map = PathMap.Read([$"/media={folder}/mnt", $"/media/deep={folder}/mnt/day 1"]);
        Assert.Equal(film, map.Find("/media/day 1/film.mov", 10));
        Assert.Equal(film, map.Find("/media/deep/film.mov", 10));
        string Refused(string path, long bytes = 10) => Assert.Throws<ErrandElsewhereException>(() => map.Find(path, bytes)).Message;
        Assert.Contains("has 10 bytes, the server's file has 11", Refused("/media/day 1/film.mov", 11), StringComparison.Ordinal);
        Assert.Contains("is not there", Refused("/media/day 2/film.mov"), StringComparison.Ordinal);
        Assert.Contains("outside", Refused("/media/../secret"), StringComparison.Ordinal);
        Assert.Contains("outside", Refused("/media/out"), StringComparison.Ordinal);
        Assert.Contains("outside", Refused("/mediadeep/film.mov"), StringComparison.Ordinal);
        Assert.Contains("outside", Refused("film.mov"), StringComparison.Ordinal);
        Assert.Equal(film, PathMap.Read([]).Find(film, 10));
        Assert.Equal(film, PathMap.Read([$"{folder}/"]).Find(film, 10));
    }

    [Theory]
    [InlineData("speech", "{}")]
    [InlineData("speech", "null")]
    [InlineData("speech", "{\"Recogniser\":null,\"ModelBytes\":0,\"Title\":\"\",\"Language\":\"en\",\"Terms\":[]}")]
    [InlineData("copies", "[")]
    [InlineData("copies", "{}")]
    [InlineData("sound", "{}")]
    [InlineData("faces", "{\"Length\":\"long\",\"Places\":1}")]
    public async Task What_is_asked_and_can_not_be_read_is_refused(string kind, string asked) =>
        await Assert.ThrowsAsync<FormatException>(() =>
            new ErrandDesk(_ => new PocketSphinx()).DoAsync(
                new Errand(kind, "a", asked, Minute),
                (_, _) => { },
                TestContext.Current.CancellationToken
            )
        );

    [Fact]
    public async Task Work_that_this_machine_does_not_know_may_be_done_by_another() =>
        await Assert.ThrowsAsync<ErrandElsewhereException>(() =>
            new ErrandDesk(_ => null).DoAsync(new Errand("dishes", "a", "{}", Minute), (_, _) => { }, TestContext.Current.CancellationToken)
        );

    private const string GoodShot =
        "{'In':0,'Out':9,'Brightness':1,'Movement':1,'Colours':['Red'],'Faces':0,'LargestFace':0,'Look':'LOOK','People':[]}";

    [Theory]
    [InlineData("'Out':9", "'Out':99999999999999")]
    [InlineData("'Out':9", "'Out':0")]
    [InlineData("'In':0", "'In':-1")]
    [InlineData("'Brightness':1", "'Brightness':1001")]
    [InlineData("'Faces':0", "'Faces':-1")]
    [InlineData("'Red'", "'Plaid'")]
    [InlineData("LOOK", "AAAA")]
    [InlineData("'People':[]", "'People':[null]")]
    [InlineData("'Colours':['Red']", "'Colours':null")]
    [InlineData(GoodShot, "{}")]
    [InlineData(GoodShot, "null")]
    [InlineData(GoodShot, "[")]
    public void Shots_that_can_not_be_are_refused(string good, string bad)
    {
        IReadOnlyList<MeasuredShot> Read(string shot) =>
            FacesErrand.Read(
                FacesErrand.Of("a", "/a", Minute, null),
                $"[{shot}]"
                    .Replace("LOOK", Convert.ToBase64String(new byte[Core.Pictures.PictureLook.Length]), StringComparison.Ordinal)
                    .Replace('\'', '"')
            );
        Assert.Single(Read(GoodShot));
        Assert.Throws<FormatException>(() => Read(GoodShot.Replace(good, bad, StringComparison.Ordinal)));
    }

    [Fact]
    public async Task Files_that_can_not_be_what_was_asked_are_refused()
    {
        var stop = TestContext.Current.CancellationToken;
        var output = File1("made", 1_001);
        Task Check(Errand errand) => ErrandDesk.CheckAsync(errand, "", stop);
        await Assert.ThrowsAsync<FormatException>(() => Check(CopyErrand.Picture("a", "/a", MediaTime.Zero, output)));
        await Assert.ThrowsAsync<FormatException>(() => Check(CopyErrand.Playing("a", "/a", Minute, output)));
        await Assert.ThrowsAsync<FormatException>(() => Check(SoundErrand.Of("a", "/a", Minute, output)));
        File1("made", 40_000_000);
        await Assert.ThrowsAsync<FormatException>(() => Check(SoundErrand.Of("a", "/a", Minute, output)));
        MadeMedia.Film(output + ".mov", "25", 2);
        await Assert.ThrowsAsync<FormatException>(() => Check(CopyErrand.Playing("a", "/a", Minute, output + ".mov")));
        await Check(CopyErrand.Playing("a", "/a", MediaTime.FromMilliseconds(2_000), output + ".mov"));
    }

    [Fact]
    public void Workers_that_began_and_are_not_there_any_more_are_counted_once_and_those_that_are_or_that_answered_are_not()
    {
        var own = new OutErrand(new Errand("speech", "a", "{}", Minute), "id", (_, _) => { });
        own.Begun("one");
        own.Begun("one");
        Assert.Empty(own.Gone(_ => false));
        own.Begun("two");
        own.Begun("two");
        Assert.Equal(["one"], own.Gone(_ => false));
        Assert.Empty(own.Gone(w => w == "one"));
        own.Begun("three");
        Assert.Equal(["one"], own.Gone(w => w == "two"));
        own.GivenBack("two");
        own.Begun("four");
        Assert.Equal(["one", "three"], own.Gone(_ => false));
    }
}
