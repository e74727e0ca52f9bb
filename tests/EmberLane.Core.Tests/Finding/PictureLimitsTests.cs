using EmberLane.Core.Finding;
using EmberLane.Core.Pictures;

namespace EmberLane.Core.Tests.Finding;

public sealed class PictureLimitsTests
{
    private static ShotFacts Facts(int light, int movement, int faces, int largest, params PictureColour[] colours) =>
        new(
            new SourceRange(default, new SourceTime(MediaTime.FromMilliseconds(5_000))),
            new PerMille(light),
            new PerMille(movement),
            colours,
            faces,
            new PerMille(largest),
            new PictureLook(new byte[PictureLook.Length])
        );

    [Theory]
    [InlineData("light:dark", true)]
    [InlineData("Light:Bright", false)]
    [InlineData("movement:calm", true)]
    [InlineData("movement:still", false)]
    [InlineData("colour:teal", true)]
    [InlineData("colour:red", false)]
    [InlineData("faces:2", true)]
    [InlineData("faces:0", false)]
    [InlineData("faces:1-3", true)]
    [InlineData("faces:>2", false)]
    [InlineData("size:medium", true)]
    [InlineData("size:close", false)]
    [InlineData("light:dark colour:brown faces:>1", true)]
    [InlineData("light:dark colour:brown faces:<1", false)]
    public void Shots_fit_limits_of_what_was_measured(string question, bool fits) =>
        Assert.Equal(
            fits,
            QuestionText.Read(question).Limits.Picture!.Fit(Facts(200, 10, 2, 200, PictureColour.Teal, PictureColour.Brown))
        );

    [Fact]
    public void A_shot_that_others_shall_be_like_is_named_by_its_file_and_its_number() =>
        Assert.Equal(new ShotName(17, 2), QuestionText.Read("ferry like:17/2").Limits.Picture!.Like);

    [Theory]
    [InlineData("light:blue")]
    [InlineData("light:")]
    [InlineData("colour:mauve")]
    [InlineData("faces:many")]
    [InlineData("faces:3-1")]
    [InlineData("size:2")]
    [InlineData("movement:0")]
    [InlineData("like:17")]
    [InlineData("like:a/b")]
    [InlineData("like:17/99999999999")]
    public void A_limit_that_says_nothing_is_refused_with_what_it_takes(string question) =>
        Assert.Contains(
            question[..question.IndexOf(':', StringComparison.Ordinal)],
            Assert.Throws<FormatException>(() => QuestionText.Read(question)).Message,
            StringComparison.Ordinal
        );
}
