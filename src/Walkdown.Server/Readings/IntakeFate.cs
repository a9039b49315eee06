using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Readings;

/// <summary>What is to become of one proposed reading.</summary>
public enum IntakeFate
{
    In,
    TooClose,
    Out,
    NotJudged,
    Known,
    Refused,
    Unmatched,
}
