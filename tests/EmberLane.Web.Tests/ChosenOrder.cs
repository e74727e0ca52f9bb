using System.Security.Cryptography;
using System.Text;
using Xunit.Sdk;
using Xunit.v3;

namespace EmberLane.Web.Tests;

/// <summary>
/// Orders classes and their tests by name and a word, so that every machine and folder runs them alike: the order xUnit takes by itself
/// depends on where the checkout lies. Another word in <c>EMBER_TEST_ORDER</c> gives another order; what fails in one only leans on the
/// test before it.
/// </summary>
public sealed class ChosenOrder : ITestCaseOrderer, ITestCollectionOrderer
{
    private static readonly string Word = Environment.GetEnvironmentVariable("EMBER_TEST_ORDER") ?? "";

    public IReadOnlyCollection<TTestCase> OrderTestCases<TTestCase>(IReadOnlyCollection<TTestCase> testCases)
        where TTestCase : notnull, ITestCase => [.. testCases.OrderBy(c => Place(c.TestCaseDisplayName), StringComparer.Ordinal)];

    public IReadOnlyCollection<TTestCollection> OrderTestCollections<TTestCollection>(IReadOnlyCollection<TTestCollection> testCollections)
        where TTestCollection : ITestCollection =>
        [.. testCollections.OrderBy(c => Place(c.TestCollectionDisplayName), StringComparer.Ordinal)];

    private static string Place(string name) => Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(Word + name)));
}
